<script setup lang="ts">
import type { Prospect, Weighed } from '../api/types'
import { useUnits } from '../measure/useUnits'
import { formatRange } from '../measure/times'
import type { StoringChoice } from './storageChoices'

defineProps<{ choices: readonly StoringChoice[]; estimates: { data?: Prospect; error: unknown }[]; first?: Weighed; locked?: boolean }>()
const chosen = defineModel<string>({ required: true })
const { size } = useUnits()
</script>

<template>
  <table class="choices">
    <thead>
      <tr>
        <td></td>
        <th class="number">Stored</th>
        <th class="number">Time{{ first ? `, ${first.name}` : '' }}</th>
        <th>Held up by</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(c, i) in choices" :key="c.key" :class="{ chosen: chosen === c.key }" @click="locked || (chosen = c.key)">
        <td>
          <label
            ><input v-model="chosen" type="radio" name="choice" :value="c.key" :disabled="locked" :title="c.note" /> {{ c.name }}</label
          >
        </td>
        <template v-if="estimates[i]?.data">
          <td class="number">{{ size(estimates[i]!.data!.likelyBytes) }}</td>
          <template v-for="time in [estimates[i]!.data!.destinations.find((d) => d.id === first?.id)?.time]" :key="c.key">
            <td class="number">{{ time ? formatRange(time.lowSeconds, time.highSeconds) : '' }}</td>
            <td class="soft">{{ time?.slowest }}</td>
          </template>
        </template>
        <td v-else colspan="3" class="soft number">{{ estimates[i]?.error ? '' : 'sampling…' }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.choices { margin-bottom: 12px; }
.choices td, .choices th { padding-top: 4px; padding-bottom: 4px; }
.choices tbody tr { cursor: pointer; }
.choices tr.chosen td { background: var(--wash); font-weight: 600; }
.choices tr.chosen td:first-child { box-shadow: inset 3px 0 var(--grain); }
.choices td:first-child { padding-left: 8px; }
label { white-space: nowrap; cursor: pointer; }
input { accent-color: var(--grain); margin: 0 3px 0 0; vertical-align: -1px; }
</style>
