<script setup lang="ts">
import { computed } from 'vue'
import type { PlanForm } from '../api/types'
import ClockField from '../field/ClockField.vue'
import NumberField from '../field/NumberField.vue'
import SelectField from '../field/SelectField.vue'
import { RHYTHMS, WEEKDAYS } from './planWords'

/** How often and in which hours. Changes the form it is given. */
const props = defineProps<{ form: PlanForm }>()
const rhythm = computed(() => props.form.rhythm)
const window = computed(() => props.form.window)
const closes = computed(() =>
  window.value.from === window.value.to ? 'any time' : window.value.to < window.value.from ? 'the next day' : '',
)

function toggle(day: string) {
  rhythm.value.days = WEEKDAYS.map((d) => d.key as string).filter((key) => (key === day) !== rhythm.value.days.includes(key))
}
</script>

<template>
  <div class="line">
    <SelectField v-model="rhythm.kind" name="rhythm" label="How often" :options="RHYTHMS" />
    <div v-if="rhythm.kind === 'weekly'" class="days" role="group" aria-label="Days of the week">
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
    </div>
    <NumberField
      v-else-if="rhythm.kind === 'days'"
      v-model="rhythm.every"
      name="rhythm.every"
      label="Every so many days"
      unit="days"
      min="1"
      max="365"
    />
    <NumberField
      v-else-if="rhythm.kind === 'monthly'"
      v-model="rhythm.day"
      name="rhythm.day"
      label="Day of the month"
      unit="(31 is always the last)"
      min="1"
      max="31"
    />
    <ClockField v-model="window.from" name="window.from" label="Window opens" />
    <ClockField v-model="window.to" name="window.to" label="Window closes" />
    <span class="soft small closes">{{ closes }}</span>
  </div>
</template>

<style scoped>
.line { display: flex; gap: 8px 18px; align-items: end; flex-wrap: wrap; }
.closes { margin-left: -10px; padding-bottom: 7px; }
.days { display: inline-flex; border: 1px solid var(--rule); border-radius: 3px; overflow: hidden; }
.days button {
  font: inherit;
  font-size: 13px;
  border: 0;
  border-right: 1px solid var(--rule);
  background: var(--sheet);
  color: var(--ink-soft);
  padding: 5px 6px;
  cursor: pointer;
}
.days button:last-child { border-right: 0; }
.days button[aria-pressed='true'] { background: var(--grain-fill); color: var(--ink); font-weight: 600; }
</style>
