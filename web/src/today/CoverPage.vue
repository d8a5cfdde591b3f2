<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { sentenceOf } from '../api/client'
import PageHeading from '../frame/PageHeading.vue'
import { today } from '../measure/days'
import { formatDate, formatFullDay } from '../measure/times'
import { useOffice } from '../query/office'
import { useToday } from '../query/today'
import { coverSentence, proofWords, risks } from './coverReport'

/** How well the office is covered, on one page, for who answers for it. */
const office = useOffice()
const page = useToday()
const cover = computed(() => page.data.value?.cover ?? [])
const atRisk = computed(() => risks(page.data.value?.todos ?? []))
const print = () => window.print()
</script>

<template>
  <PageHeading :title="`Cover, ${formatFullDay(today())}`"
    >{{ office.data.value?.name }}. {{ coverSentence(cover) }}
    <template #action><Button class="no-print" label="Print" severity="secondary" outlined @click="print" /></template>
  </PageHeading>
  <p v-if="page.error.value" class="notice" role="alert">{{ sentenceOf(page.error.value) }}</p>
  <table>
    <thead>
      <tr>
        <th>Disk</th>
        <th>Covered since</th>
        <th>Newest image</th>
        <th>Lies on</th>
        <th>Proven</th>
        <th>Against plan</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="c in cover" :key="c.diskId">
        <td>
          <b>{{ c.computer }}</b> {{ c.disk }}
        </td>
        <td class="nowrap">{{ c.since ? formatDate(c.since) : 'not covered' }}</td>
        <td class="nowrap">{{ c.newest ? formatDate(c.newest) : 'none' }}</td>
        <td>{{ c.lies }}</td>
        <td>{{ proofWords(c.proof, c.stale) }}</td>
        <td :class="{ brick: c.state === 'late' || c.state === 'never' || c.state === 'unproven' }">{{ c.words }}</td>
      </tr>
    </tbody>
  </table>
  <h2 class="section">At risk</h2>
  <ul v-if="atRisk.length">
    <li v-for="t in atRisk" :key="t.title">
      <b>{{ t.title }}.</b> {{ t.reason }}
    </li>
  </ul>
  <p v-else-if="page.data.value">Nothing that Granary knows of.</p>
  <p class="small soft">
    Covered since: when the oldest image that is proven sound was made. Proven: how far the newest image was tried. An image proves what
    its disk held when it was made, and nothing since.
  </p>
  <p class="sign"><span>Technician</span><span>Seen by</span><span>Date</span></p>
</template>

<style scoped>
.nowrap { white-space: nowrap; }
h2.section.section { margin: 18px 0 6px; }
ul { margin: 0 0 14px; padding-left: 18px; }
.sign { display: flex; gap: 40px; margin-top: 54px; }
.sign span { flex: 1; border-top: 1px solid var(--ink); padding-top: 4px; font-size: 13px; }
@media print {
  td, th, li, p { font-size: 10.5px; }
  td, th { padding: 2px 6px 2px 0; }
}
</style>
