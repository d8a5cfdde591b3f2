<script setup lang="ts">
import type { PlanForm } from '../api/types'
import CheckField from '../field/CheckField.vue'
import NumberField from '../field/NumberField.vue'

/** How long images of the plan are kept. Changes what it is given. */
defineProps<{ keep: PlanForm['keep'] }>()
const COUNTS = [
  { key: 'last', label: 'Newest images kept' },
  { key: 'daily', label: 'One a day, for days' },
  { key: 'weekly', label: 'One a week, for weeks' },
  { key: 'monthly', label: 'One a month, for months' },
  { key: 'yearly', label: 'One a year, for years' },
] as const
</script>

<template>
  <div class="keep">
    <CheckField v-model="keep.asOffice" label="Kept as the office does" />
    <template v-if="!keep.asOffice">
      <div class="line">
        <NumberField
          v-for="c in COUNTS"
          :key="c.key"
          v-model="keep[c.key]"
          :name="`keep.${c.key}`"
          :label="c.label"
          min="0"
          max="999"
        />
      </div>
      <div class="line">
        <NumberField
          v-model="keep.minimumDays"
          name="keep.minimumDays"
          label="Keep everything younger than"
          unit="days"
          min="0"
          max="9999"
        />
        <NumberField
          v-model="keep.maximumDays"
          name="keep.maximumDays"
          label="Release everything older than"
          unit="days (0: no limit)"
          min="0"
          max="9999"
        />
        <NumberField v-model="keep.leastProven" name="keep.leastProven" label="Always keep this many proven images" min="1" max="999" />
      </div>
    </template>
    <CheckField v-model="keep.automatic" label="Release the rest without asking" />
  </div>
</template>

<style scoped>
.keep { display: grid; gap: 6px; }
.line { display: flex; flex-wrap: wrap; gap: 8px 18px; align-items: end; }
</style>
