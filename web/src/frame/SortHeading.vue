<script setup lang="ts">
import { computed } from 'vue'
import type { Sorting } from './useSorted'

/** The heading of a column that a table can be sorted by. */
const props = defineProps<{ column: string; sorting: Sorting }>()
const emit = defineEmits<{ by: [column: string] }>()
const way = computed(() => (props.sorting.by !== props.column ? undefined : props.sorting.down ? 'descending' : 'ascending'))
</script>

<template>
  <th scope="col" :aria-sort="way">
    <button type="button" @click="emit('by', column)">
      <slot /><span class="way" aria-hidden="true">{{ way === 'descending' ? '↓' : way === 'ascending' ? '↑' : '' }}</span>
    </button>
  </th>
</template>

<style scoped>
button { font: inherit; color: inherit; background: none; border: 0; padding: 0; cursor: pointer; text-align: inherit; }
button:hover { text-decoration: underline; }
.way { position: absolute; padding-left: 3px; }
</style>
