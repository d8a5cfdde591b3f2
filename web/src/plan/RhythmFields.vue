<script setup lang="ts">
import Select from 'primevue/select'
import { computed } from 'vue'
import type { PlanForm } from '../api/types'
import ClockField from '../measure/ClockField.vue'
import { RHYTHMS, WEEKDAYS } from './planWords'

/** How often and in which hours: two rows of the plan's table. Changes the form it is given. */
const props = defineProps<{ form: PlanForm; refusedField: string }>()
const rhythm = computed(() => props.form.rhythm)
const window = computed(() => props.form.window)

function toggle(day: string) {
  rhythm.value.days = WEEKDAYS.map((d) => d.key as string).filter((key) => (key === day) !== rhythm.value.days.includes(key))
}
</script>

<template>
  <tr>
    <td class="soft">How often</td>
    <td class="often">
      <Select
        v-model="rhythm.kind"
        :options="[...RHYTHMS]"
        option-label="label"
        option-value="key"
        size="small"
        aria-label="How often"
        :invalid="refusedField === 'rhythm'"
      />
      <span v-if="rhythm.kind === 'weekly'" class="days" role="group" aria-label="Days of the week">
        <button
          v-for="d in WEEKDAYS"
          :key="d.key"
          type="button"
          :aria-pressed="rhythm.days.includes(d.key)"
          :aria-label="d.key"
          @click="toggle(d.key)"
        >
          {{ d.short }}
        </button>
      </span>
      <label v-else-if="rhythm.kind === 'days'"
        >every <input v-model.number="rhythm.every" type="number" min="1" max="365" aria-label="Every so many days" /> days</label
      >
      <label v-else-if="rhythm.kind === 'monthly'"
        >on day
        <input v-model.number="rhythm.day" type="number" min="1" max="31" aria-label="Day of the month" title="31 is always the last day"
      /></label>
    </td>
  </tr>
  <tr>
    <td class="soft">When</td>
    <td>
      between <ClockField v-model="window.from" label="Window opens" :invalid="refusedField === 'window.from'" /> and
      <ClockField v-model="window.to" label="Window closes" :invalid="refusedField === 'window.to'" />
      <span class="soft small">{{ window.from === window.to ? ' any time' : window.to < window.from ? ' the next day' : '' }}</span>
    </td>
  </tr>
</template>

<style scoped>
td { padding-top: 3.5px; padding-bottom: 3.5px; }
.often { display: flex; gap: 10px; align-items: center; flex-wrap: wrap; }
.days { display: inline-flex; border: 1px solid var(--rule); border-radius: 3px; overflow: hidden; }
.days button {
  font: inherit;
  font-size: 13px;
  border: 0;
  border-right: 1px solid var(--rule);
  background: var(--sheet);
  color: var(--ink-soft);
  padding: 2px 5px;
  cursor: pointer;
}
.days button:last-child { border-right: 0; }
.days button[aria-pressed='true'] { background: var(--grain-fill); color: var(--ink); font-weight: 600; }
</style>
