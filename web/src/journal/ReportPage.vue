<script setup lang="ts">
import { ref } from 'vue'
import { sentenceOf } from '../api/client'
import PageHeading from '../frame/PageHeading.vue'
import DateField from '../field/DateField.vue'
import { daysAgo, today } from '../measure/days'
import { formatDay, formatMoment } from '../measure/times'
import { useReport } from '../query/journal'
import { useOffice } from '../query/office'

/** A period of the journal for the office's file, with the seal that proves it and lines to sign on. */
const from = ref(daysAgo(30))
const to = ref(today())
const report = useReport(from, to)
const office = useOffice()
const print = () => window.print()
</script>

<template>
  <PageHeading :title="`Journal, ${formatDay(from)} to ${formatDay(to)} ${to.slice(0, 4)}`"
    >{{ office.data.value?.name }}. {{ report.data.value?.lines.length ?? 0 }} lines. {{ report.data.value?.sentence }}
    <template #action>
      <div class="tools no-print">
        <DateField v-model="from" label="From" />
        <DateField v-model="to" label="To" />
        <button type="button" class="plain-field" @click="print">Print</button>
      </div>
    </template>
  </PageHeading>
  <p v-if="report.error.value" class="notice" role="alert">{{ sentenceOf(report.error.value) }}</p>
  <p v-if="report.data.value?.more" class="notice">Only the first 5000 lines are shown. Choose a shorter period.</p>
  <table>
    <thead>
      <tr>
        <th>Line</th>
        <th>When</th>
        <th>Who</th>
        <th>What</th>
        <th>Devices</th>
        <th class="said">In words</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="l in report.data.value?.lines" :key="l.id">
        <td>{{ l.id }}</td>
        <td class="nowrap">{{ formatMoment(l.at) }}</td>
        <td>{{ l.account }}</td>
        <td>{{ l.action }}{{ l.result === 'note' ? '' : `, ${l.result}` }}</td>
        <td>{{ l.devices }}</td>
        <td>{{ l.corrects ? `Corrects line ${l.corrects}: ` : '' }}{{ l.sentence }}</td>
      </tr>
    </tbody>
  </table>
  <p v-if="report.data.value?.lines.length" class="seal small">
    Seal of the last line shown: <code>{{ report.data.value.lines.at(-1)?.seal }}</code>
  </p>
  <p class="sign"><span>Technician</span><span>Seen by</span><span>Date</span></p>
</template>

<style scoped>
.tools { display: flex; gap: 8px; }
.nowrap { white-space: nowrap; }
.said { width: 46%; }
.seal { margin-top: 12px; overflow-wrap: anywhere; }
.sign { display: flex; gap: 40px; margin-top: 60px; }
.sign span { flex: 1; border-top: 1px solid var(--ink); padding-top: 4px; font-size: 13px; }
@media print {
  td, th { font-size: 10px; padding: 2px 5px 2px 0; }
}
</style>
