<script setup lang="ts">
import Button from 'primevue/button'
import ProgressBar from 'primevue/progressbar'
import { computed, ref, watch } from 'vue'
import { client } from '../api/client'
import type { Live } from '../api/types'
import { AFTERWARDS } from '../computer/afterwards'
import TextField from '../field/TextField.vue'
import { toAddresses } from '../mail/addresses'
import SelectField from '../field/SelectField.vue'
import { useAction } from '../api/useAction'
import { useUnits } from '../measure/useUnits'
import { formatRange } from '../measure/times'
import { useSession } from '../session/useSession'
import { devices, ratePath, stageWord, stopMeans } from './runWords'

const props = defineProps<{ run: Live }>()
const { size } = useUnits()
const { mayAct } = useSession()
const asking = ref(false)
const share = computed(() => Math.min(100, Math.floor((props.run.doneBytes / Math.max(1, props.run.totalBytes)) * 100)))
const begun = computed(() => props.run.totalBytes > 0)
const stage = computed(() =>
  props.run.askedAfter
    ? 'It went on at its own computer while Granary was away; asking how far it is'
    : props.run.paused
      ? 'Held'
      : begun.value
        ? stageWord(props.run.stage)
        : 'Checking everything once more before it begins',
)
const whose = computed(() => (props.run.kind === 'capture' ? props.run.computer : 'the computer that does it'))
const uses = computed(() => devices(props.run))

/** Rates of this stage between two tellings, for the plot: no more than fit it. */
const KEPT = 90
const rates = ref<number[]>([])
let last = { stage: '', done: 0, at: 0 }
watch(
  () => props.run,
  (now) => {
    const at = performance.now()
    if (now.stage !== last.stage) rates.value = []
    else if (at - last.at > 200) rates.value = [...rates.value.slice(1 - KEPT), ((now.doneBytes - last.done) / (at - last.at)) * 1000]
    else return
    last = { stage: now.stage, done: now.doneBytes, at }
  },
  { immediate: true },
)

const { act, busy, refused } = useAction(async (what: 'stop' | 'pause' | 'go-on' | 'give-way' | 'usual-priority') => {
  asking.value = false
  const params = { path: { id: props.run.id } }
  if (what === 'stop') await client.POST('/api/v1/runs/{id}/stop', { params })
  else if (what === 'pause') await client.POST('/api/v1/runs/{id}/pause', { params })
  else if (what === 'go-on') await client.POST('/api/v1/runs/{id}/go-on', { params })
  else if (what === 'give-way') await client.POST('/api/v1/runs/{id}/give-way', { params })
  else await client.POST('/api/v1/runs/{id}/usual-priority', { params })
})
const { act: then, refused: notTaken } = useAction(async (action: string) => {
  await client.PUT('/api/v1/runs/{id}/afterwards', { params: { path: { id: props.run.id } }, body: { action } })
})
const mail = ref(props.run.mailTo)
const { act: told, refused: notMailed } = useAction(async () => {
  await client.PUT('/api/v1/runs/{id}/mail', { params: { path: { id: props.run.id } }, body: { to: toAddresses(mail.value) } })
})
</script>

<template>
  <article>
    <div class="head">
      <h2>{{ run.imageName }}</h2>
      <span v-if="mayAct" class="ask">
        <template v-if="!asking">
          <Button
            :label="run.lowPriority ? 'Usual priority' : 'Give way'"
            text
            severity="secondary"
            size="small"
            :title="run.lowPriority ? 'It gives way to other runs' : 'Let other runs go first'"
            @click="act(run.lowPriority ? 'usual-priority' : 'give-way')"
          />
          <Button
            :label="run.paused ? 'Go on' : 'Hold'"
            :severity="run.paused ? undefined : 'secondary'"
            :outlined="!run.paused"
            size="small"
            :loading="busy"
            @click="act(run.paused ? 'go-on' : 'pause')"
          />
          <Button label="Stop" severity="secondary" outlined size="small" :loading="busy" @click="asking = true" />
        </template>
        <template v-else>
          {{ stopMeans(run.kind) }}
          <Button label="Stop this run" severity="danger" size="small" @click="act('stop')" />
          <Button label="Let it run" text size="small" autofocus @click="asking = false" />
        </template>
      </span>
    </div>
    <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
    <p>{{ stage }}<span v-if="run.lowPriority" class="soft">, giving way to other runs</span></p>
    <ProgressBar :value="share" :show-value="false" :aria-label="`${stage}, ${share} percent`" />
    <div class="facts">
      <dl>
        <div>
          <dt>Done</dt>
          <dd>{{ begun ? `${size(run.doneBytes)} of ${size(run.totalBytes)}, ${share} %` : 'nothing yet' }}</dd>
        </div>
        <div>
          <dt>Written</dt>
          <dd>
            {{ size(run.storedBytes)
            }}<template v-if="run.likelyBytes && run.kind === 'capture'"> of about {{ size(run.likelyBytes) }}</template>
          </dd>
        </div>
        <div>
          <dt>Left</dt>
          <dd>
            {{ begun ? formatRange(run.lowSecondsLeft, run.highSecondsLeft) : 'not known yet'
            }}<template v-if="run.highSeconds > 0"> (first estimate: {{ formatRange(run.lowSeconds, run.highSeconds) }} in all)</template>
          </dd>
        </div>
        <div>
          <dt>Reads</dt>
          <dd>{{ uses.reads }}</dd>
        </div>
        <div>
          <dt>Writes</dt>
          <dd>{{ uses.writes }}</dd>
        </div>
        <div>
          <dt>Rate</dt>
          <dd>{{ run.rateBytes ? `${size(run.rateBytes)} a second` : 'not known yet' }}</dd>
        </div>
      </dl>
      <svg width="180" height="46" viewBox="0 0 180 46" role="img" aria-label="Rate of this stage so far">
        <line x1="0" x2="180" y1="45.5" y2="45.5" stroke="var(--rule)" />
        <path :d="ratePath(rates, 180, 45)" fill="none" stroke="var(--grain)" stroke-width="1.4" />
      </svg>
    </div>
    <div v-if="mayAct" class="then">
      <SelectField
        :model-value="run.afterwards"
        :label="`When it has ended well and nothing else waits there, ${whose}`"
        :options="AFTERWARDS"
        @update:model-value="then($event)"
      />
      <TextField
        v-model="mail"
        label="Mail to, when it has ended"
        spellcheck="false"
        @change="told()"
      />
    </div>
    <p v-if="notTaken || notMailed" class="notice" role="alert">{{ notTaken || notMailed }}</p>
    <p class="visually-hidden" aria-live="polite">{{ run.imageName }}: {{ Math.floor(share / 10) * 10 }} percent</p>
  </article>
</template>

<style scoped>
article { border-top: 1px solid var(--ink); padding: 14px 0 18px; }
.head { display: flex; justify-content: space-between; align-items: center; min-height: 34px; gap: 16px; }
h2 { font-size: 20px; margin: 0; }
.ask { display: flex; gap: 10px; align-items: center; font-size: 13.5px; }
.p-progressbar { margin: 8px 0 12px; }
.facts { display: grid; grid-template-columns: 1fr auto; gap: 20px; align-items: end; }
.then { display: flex; flex-wrap: wrap; gap: 8px 20px; align-items: end; margin: 8px 0 0; }
dl { display: grid; grid-template-columns: 1fr 1.3fr; gap: 6px 24px; margin: 0; font-size: 14px; }
dl div { display: flex; gap: 10px; }
dt { color: var(--ink-soft); width: 52px; flex: none; }
dd { margin: 0; }
</style>
