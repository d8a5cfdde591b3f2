<script setup lang="ts">
import NumberField from '../field/NumberField.vue'

/** How many images stay, and for how long: the office's rule, or a plan's own. Changes what it is given. */
export interface KeepNumbers {
  last: number
  daily: number
  weekly: number
  monthly: number
  yearly: number
  minimumDays: number
  maximumDays: number
  leastProven: number
}
const props = defineProps<{
  keep: KeepNumbers
  /** Before the names of its fields, as the server calls them; an empty string for none. */
  of: string
}>()
const COUNTS = [
  { key: 'last', label: 'Newest images kept' },
  { key: 'daily', label: 'One a day, for days' },
  { key: 'weekly', label: 'One a week, for weeks' },
  { key: 'monthly', label: 'One a month, for months' },
  { key: 'yearly', label: 'One a year, for years' },
] as const
const name = (key: keyof KeepNumbers) => props.of + key
</script>

<template>
  <div class="numbers">
    <NumberField v-for="c in COUNTS" :key="c.key" v-model="keep[c.key]" :name="name(c.key)" :label="c.label" min="0" max="999" />
  </div>
  <div class="numbers">
    <NumberField
      v-model="keep.minimumDays"
      :name="name('minimumDays')"
      label="Keep everything younger than"
      unit="days"
      min="0"
      max="9999"
    />
    <NumberField
      v-model="keep.maximumDays"
      :name="name('maximumDays')"
      label="Release everything older than"
      unit="days (0: no limit)"
      min="0"
      max="9999"
    />
    <NumberField v-model="keep.leastProven" :name="name('leastProven')" label="Always keep this many proven images" min="1" max="999" />
  </div>
</template>

<style scoped>
.numbers { display: flex; flex-wrap: wrap; gap: 8px 18px; align-items: start; margin-bottom: 6px; }
</style>
