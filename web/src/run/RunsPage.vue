<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { sentenceOf } from '../api/client'
import type { RunLine } from '../api/types'
import TextField from '../field/TextField.vue'
import PageHeading from '../frame/PageHeading.vue'
import SortHeading from '../frame/SortHeading.vue'
import { useSorted } from '../frame/useSorted'
import { useUnits } from '../measure/useUnits'
import { formatMoment, formatRange, formatSeconds } from '../measure/times'
import LiveRun from './LiveRun.vue'
import { firstSentence, kindWord, nextStep } from './runWords'
import UnfinishedList from './UnfinishedList.vue'
import WaitingRuns from './WaitingRuns.vue'
import { useLiveRuns } from './useLiveRuns'
import { usePageKeys } from '../keys/pageKeys'
import { useRuns, useUnfinished, useWaiting } from '../query/runs'

const { size } = useUnits()
const router = useRouter()
const { runs: live } = useLiveRuns()
const filter = ref('')
const all = useRuns()
const waiting = useWaiting()
const unfinished = useUnfinished()
const ended = computed(() =>
  (all.data.value ?? []).filter(
    (r) =>
      r.state !== 'running' &&
      r.state !== 'queued' &&
      `${r.imageName} ${r.computer} ${r.destination} ${r.state} ${r.outcome}`.toLowerCase().includes(filter.value.toLowerCase()),
  ),
)
const summary = computed(() => {
  if (!all.data.value) return ''
  const failed = all.data.value.filter((r) => r.state === 'failed').length
  const done = all.data.value.filter((r) => r.state === 'done').length
  const under = live.value.length ? `${live.value.length} under way` : 'Nothing under way'
  const wait = waiting.data.value?.length ? `, ${waiting.data.value.length} waiting` : ''
  return `${under}${wait}. ${done} done, ${failed} failed.`
})

const seconds = (run: RunLine) => (run.endedAt ? (new Date(run.endedAt).getTime() - new Date(run.begunAt).getTime()) / 1000 : null)
function took(run: RunLine): string {
  const known = seconds(run)
  return known === null ? '' : formatSeconds(known)
}
const { sorted, sorting, by } = useSorted(
  () => ended.value,
  {
    begun: (run) => run.begunAt,
    what: (run) => kindWord(run.kind),
    disk: (run) => `${run.computer} ${run.disk}`,
    on: (run) => run.destination,
    stored: (run) => (run.state === 'done' && run.kind === 'capture' ? run.storedBytes : null),
    took: seconds,
    ended: (run) => run.state,
  },
  { by: 'begun', down: true },
)
usePageKeys(['Tab', 'from run to run'], ['Enter', 'open its image'])
function open(run: RunLine) {
  if (run.imageId) router.push(`/images/${run.imageId}`)
}
</script>

<template>
  <PageHeading title="Runs"
    >{{ summary }}
    <template #action><TextField v-model="filter" label="Find a run" data-filter placeholder="Image, drive or outcome ( / )" /></template>
  </PageHeading>
  <p v-if="all.error.value" class="notice" role="alert">{{ sentenceOf(all.error.value) }}</p>
  <LiveRun v-for="run in live" :key="run.id" :run="run" />
  <WaitingRuns :waiting="waiting.data.value ?? []" />
  <section v-if="unfinished.data.value?.length" class="before">
    <h2 class="section">Not finished</h2>
    <UnfinishedList :unfinished="unfinished.data.value" />
  </section>
  <h2 class="section before" v-if="ended.length">Before</h2>
  <table v-if="ended.length">
    <thead>
      <tr>
        <SortHeading column="begun" :sorting="sorting" @by="by">Begun</SortHeading>
        <SortHeading column="what" :sorting="sorting" @by="by">What</SortHeading>
        <SortHeading column="disk" :sorting="sorting" @by="by">Disk</SortHeading>
        <SortHeading column="on" :sorting="sorting" @by="by">On</SortHeading>
        <SortHeading column="stored" class="number" :sorting="sorting" @by="by">Stored, estimated</SortHeading>
        <SortHeading column="took" class="number" :sorting="sorting" @by="by">Took, estimated</SortHeading>
        <SortHeading column="ended" :sorting="sorting" @by="by">Ended</SortHeading>
        <th>Why</th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="run in sorted"
        :key="run.id"
        :tabindex="run.imageId ? 0 : undefined"
        @click="open(run)"
        @keydown.enter.self="open(run)"
      >
        <td class="nowrap" :title="run.begunAt">{{ formatMoment(run.begunAt) }}</td>
        <td>{{ kindWord(run.kind) }}</td>
        <td>
          <b>{{ run.computer }}</b> {{ run.disk }}
          <div class="soft small">{{ run.imageName }}</div>
        </td>
        <td>{{ run.destination }}</td>
        <td class="number">
          <template v-if="run.state === 'done' && run.kind === 'capture'"
            >{{ size(run.storedBytes) }}, {{ size(run.likelyBytes) }}</template
          >
        </td>
        <td class="number">
          {{ took(run) }}<template v-if="run.highSeconds">, {{ formatRange(run.lowSeconds, run.highSeconds) }}</template>
        </td>
        <td>
          <span :class="run.state === 'done' ? 'moss' : 'brick'">{{ run.state }}</span>
        </td>
        <td>
          <template v-for="why in [firstSentence(run.state === 'done' ? run.differs : run.outcome)]" :key="why.first"
            ><details v-if="why.rest" class="outcome" @click.stop>
              <summary>{{ why.first }}</summary>
              {{ why.rest }}
            </details>
            <span v-else class="outcome">{{ why.first }}</span></template
          ><RouterLink v-if="run.state !== 'done' && nextStep(run)" :to="nextStep(run)!.to" class="small" @click.stop>{{
            nextStep(run)!.label
          }}</RouterLink>
        </td>
      </tr>
    </tbody>
  </table>
  <p v-else-if="!live.length && !all.isPending.value" class="empty">
    {{
      filter
        ? `No run matches "${filter}".`
        : 'What Granary captures and checks shows here, with how long it took and how long it was estimated to take.'
    }}
    <RouterLink v-if="!filter" to="/computers">Choose a disk and make its first image.</RouterLink>
  </p>
</template>

<style scoped>
tbody tr[tabindex] { cursor: pointer; }
tbody tr[tabindex]:hover td { background: var(--wash); }
.before { border-top: 1px solid var(--ink); padding-top: 12px; }
.nowrap { white-space: nowrap; }
.outcome { display: block; max-width: 300px; font-size: 13.5px; }
.outcome summary { cursor: pointer; }
</style>
