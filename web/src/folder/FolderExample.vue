<script setup lang="ts">
import { sentenceOf } from '../api/client'
import { useFolderExample } from '../query/folders'

/** A folder pattern in words, with where an image would lie now; or what is wrong with it. */
const props = defineProps<{ pattern: string; diskId?: string; where?: string }>()
const example = useFolderExample(
  () => props.pattern,
  () => props.diskId,
)
</script>

<template>
  <p class="small soft" aria-live="polite">
    <span v-if="example.error.value" class="brick">{{ sentenceOf(example.error.value) }}</span>
    <template v-else-if="example.data.value"
      >{{ !pattern && where ? `${where} ` : '' }}{{ example.data.value.sentence
      }}<template v-if="example.data.value.folder"
        >{{ diskId ? ' Now: ' : ' For example: ' }}<b class="folder">{{ example.data.value.folder }}</b></template
      ></template
    >
  </p>
</template>

<style scoped>
p { margin: 2px 0 0; }
.folder { overflow-wrap: anywhere; font-weight: 600; color: var(--ink); }
</style>
