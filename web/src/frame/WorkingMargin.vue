<script setup lang="ts">
import type { Working } from '../api/types'
import { useUnits } from '../measure/useUnits'

defineProps<{ working: Working }>()
const emit = defineEmits<{ close: [] }>()
const { size } = useUnits()
</script>

<template>
  <aside class="margin" aria-live="polite" aria-label="How the figure came about">
    <button type="button" class="close" @click="emit('close')" aria-label="Close the margin (Esc)">×</button>
    <h2>{{ working.title }}</h2>
    <p class="soft">{{ working.subtitle }}</p>
    <table>
      <tbody>
        <tr v-for="(line, i) in working.lines" :key="i" :class="{ strong: line.strong }">
          <td>{{ line.label }}</td>
          <td class="number">{{ line.bytes === null ? line.text : size(line.bytes) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-for="(sentence, i) in working.sentences" :key="i" class="sentence">{{ sentence }}</p>
  </aside>
</template>

<style scoped>
.margin { background: var(--sheet); border-left: 1px solid var(--rule); padding: 20px 18px; overflow-y: auto; position: relative; }
h2 { font-size: 19px; margin: 0; padding-right: 24px; }
table { margin: 14px 0; }
.strong td { font-weight: 600; border-bottom-color: var(--rule); }
.sentence { font-size: 13.5px; margin-bottom: 10px; color: var(--ink-soft); }
.close {
  position: absolute;
  top: 14px;
  right: 14px;
  border: 0;
  background: none;
  font-size: 22px;
  line-height: 1;
  color: var(--ink-soft);
  cursor: pointer;
}
</style>
