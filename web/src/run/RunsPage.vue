<script setup lang="ts">
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { sentenceOf } from '../api/client'
import type { RunLine } from '../api/types'
import TextField from '../field/TextField.vue'
import PageHeading from '../frame/PageHeading.vue'
import { useUnits } from '../measure/useUnits'
import { formatMoment, formatRange, formatSeconds } from '../measure/times'
import LiveRun from './LiveRun.vue'
import { firstSentence, kindWord, nextStep } from './runWords'
import UnfinishedList from './UnfinishedList.vue'
import WaitingRuns from './WaitingRuns.vue'
import { useLiveRuns } from './useLiveRuns'
import { useRuns, useUnfinished, useWaiting } from '../query/runs'

const { size } = useUnits()
const router = useRouter()
const { runs: live, connection } = useLiveRuns()
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

function took(run: RunLine): string {
  return run.endedAt ? formatSeconds((new Date(run.endedAt).getTime() - new Date(run.begunAt).getTime()) / 1000) : ''
}
function open(run: RunLine) {
  if (run.imageId) router.push(`/images/${run.imageId}`)
}
</script>

<template>
  <PageHeading title="Runs"
    >{{ summary }}
    <template #action><TextField v-model="filter" label="Find a run" data-filter placeholder="Image, drive or outcome ( / )" /></template>
  </PageHeading>
  <p v-if="connection === 'lost'" class="notice" role="alert">
    The connection to Granary is lost. Runs go on; this page reconnects by itself.
  </p>
  <p v-if="all.error.value" class="notice" role="alert">{{ sentenceOf(all.error.value) }}</p>
  <LiveRun v-for="run in live" :key="run.id" :run="run" />
  <WaitingRuns :waiting="waiting.data.value ?? []" />
  <section v-if="unfinished.data.value?.length" class="before">
    <h2 class="section">Not finished</h2>
    <UnfinishedList :unfinished="unfinished.data.value" />
  </section>
  <h2 class="section before" v-if="ended.length">Before</h2>
  <DataTable
    v-if="ended.length"
    :value="ended"
    data-key="id"
    selection-mode="single"
    sort-field="begunAt"
    :sort-order="-1"
    @row-select="(e) => open(e.data as RunLine)"
  >
    <Column field="begunAt" header="Begun" sortable
      ><template #body="{ data }"
        ><span class="nowrap" :title="data.begunAt">{{ formatMoment(data.begunAt) }}</span></template
      ></Column
    >
    <Column field="kind" header="What" sortable
      ><template #body="{ data }">{{ kindWord(data.kind) }}</template></Column
    >
    <Column field="computer" header="Disk" sortable
      ><template #body="{ data }"
        ><b>{{ data.computer }}</b> {{ data.disk }}
        <div class="soft small">{{ data.imageName }}</div></template
      ></Column
    >
    <Column field="destination" header="On" sortable />
    <Column field="storedBytes" header="Stored, estimated" sortable body-class="number" header-class="number">
      <template #body="{ data }"
        ><template v-if="data.state === 'done' && data.kind === 'capture'"
          >{{ size(data.storedBytes) }}, {{ size(data.likelyBytes) }}</template
        ></template
      >
    </Column>
    <Column header="Took, estimated" body-class="number" header-class="number"
      ><template #body="{ data }"
        >{{ took(data) }}<template v-if="data.highSeconds">, {{ formatRange(data.lowSeconds, data.highSeconds) }}</template></template
      ></Column
    >
    <Column field="state" header="Ended" sortable
      ><template #body="{ data }"
        ><span :class="data.state === 'done' ? 'moss' : 'brick'">{{ data.state }}</span></template
      ></Column
    >
    <Column header="Why"
      ><template #body="{ data }"
        ><template v-for="why in [firstSentence(data.state === 'done' ? data.differs : data.outcome)]" :key="why.first"
          ><details v-if="why.rest" class="outcome" @click.stop>
            <summary>{{ why.first }}</summary>
            {{ why.rest }}
          </details>
          <span v-else class="outcome">{{ why.first }}</span></template
        ><RouterLink v-if="data.state !== 'done' && nextStep(data)" :to="nextStep(data)!.to" class="small" @click.stop>{{
          nextStep(data)!.label
        }}</RouterLink></template
      ></Column
    >
  </DataTable>
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
.before { border-top: 1px solid var(--ink); padding-top: 12px; }
.nowrap { white-space: nowrap; }
.outcome { display: block; max-width: 300px; font-size: 13.5px; }
.outcome summary { cursor: pointer; }
</style>
