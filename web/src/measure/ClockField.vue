<script setup lang="ts">
import { toClock } from './clock'

/** A time of day by the office's clock, typed: a browser's own field would show it as its language does. */
defineProps<{ label: string; invalid?: boolean }>()
const time = defineModel<string>({ required: true })
</script>

<template>
  <input
    :value="time"
    type="text"
    inputmode="numeric"
    maxlength="8"
    placeholder="18:30"
    :aria-label="label"
    :class="{ invalid }"
    @change="time = toClock(($event.target as HTMLInputElement).value)"
  />
</template>

<style scoped>
input {
  font: inherit;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 2px 6px;
  width: 62px;
  font-variant-numeric: tabular-nums;
}
.invalid { border-color: var(--brick); }
</style>
