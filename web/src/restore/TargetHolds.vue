<script setup lang="ts">
import { ref } from 'vue'
import { sentenceOf } from '../api/client'
import { useTarget } from '../query/targets'

/** What is on a disk that could be overwritten: read only when a person asks. */
const props = defineProps<{ targetId: string }>()
const asked = ref(false)
const looked = useTarget(
  () => props.targetId,
  () => asked.value,
)
</script>

<template>
  <button v-if="!asked" type="button" class="figure" @click="asked = true">what is on it</button>
  <span v-else-if="looked.data.value">{{ looked.data.value.holds.join('; ') }}</span>
  <span v-else-if="looked.isError.value" class="brick" role="alert">{{ sentenceOf(looked.error.value) }}</span>
  <span v-else class="soft">reading it …</span>
</template>
