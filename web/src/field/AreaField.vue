<script setup lang="ts">
import Textarea from 'primevue/textarea'
import { useAttrs, useId } from 'vue'
import FieldFrame from './FieldFrame.vue'

/** Several lines of text. */
defineOptions({ inheritAttrs: false })
defineProps<{ label: string; hint?: string; error?: string }>()
const text = defineModel<string>({ required: true })
const attrs = useAttrs()
const id = useId()
</script>

<template>
  <FieldFrame :id="id" :label="label" :hint="hint" :error="error" :class="attrs.class">
    <Textarea v-bind="{ ...attrs, class: undefined }" :id="id" v-model="text" auto-resize :invalid="!!error" />
  </FieldFrame>
</template>
