<script setup lang="ts">
import Button from 'primevue/button'
import ProgressBar from 'primevue/progressbar'
import { computed, ref } from 'vue'
import { client } from '../api/client'
import type { Live, RunLine } from '../api/types'
import { useAction } from '../api/useAction'
import { useUnits } from '../frame/useUnits'
import { formatRange } from '../measure/times'
import { useSession } from '../session/useSession'

const props = defineProps<{ run: Live; line: RunLine | undefined }>()
const { size } = useUnits()
const { mayAct } = useSession()
const asking = ref(false)
const share = computed(() => Math.min(100, Math.floor((props.run.doneBytes / Math.max(1, props.run.totalBytes)) * 100)))
const stage = computed(() => (props.run.stage === 'capturing' ? 'Reading, compressing, writing' : 'Reading back: digests and frames'))

const { act: stop, busy: stopping, refused } = useAction(async () => {
  asking.value = false
  await client.POST('/api/v1/runs/{id}/stop', { params: { path: { id: props.run.id } } })
})
</script>

<template>
  <article>
    <div class="head">
      <h2>{{ run.imageName }}</h2>
      <template v-if="mayAct">
        <Button v-if="!asking" label="Stop" severity="secondary" outlined size="small" :loading="stopping" @click="asking = true" />
        <span v-else class="ask">
          {{ run.kind === 'capture' ? 'What was written is removed; the disk is untouched.' : 'The image stays as it is.' }}
          <Button label="Stop this run" severity="danger" size="small" @click="stop" />
          <Button label="Let it run" text size="small" autofocus @click="asking = false" />
        </span>
      </template>
    </div>
    <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
    <p>{{ stage }}</p>
    <ProgressBar :value="share" :show-value="false" :aria-label="`${stage}, ${share} percent`" />
    <dl>
      <div><dt>Done</dt><dd>{{ size(run.doneBytes) }} of {{ size(run.totalBytes) }}, {{ share }} %</dd></div>
      <div><dt>Written</dt><dd>{{ size(run.storedBytes) }}<template v-if="line && run.kind === 'capture'"> of about {{ size(line.likelyBytes) }}</template></dd></div>
      <div><dt>Left</dt><dd>{{ formatRange(run.lowSecondsLeft, run.highSecondsLeft) }}<template v-if="line && line.highSeconds > 0"> (first thought: {{ formatRange(line.lowSeconds, line.highSeconds) }} in all)</template></dd></div>
      <div><dt>Reads</dt><dd>{{ run.kind === 'capture' ? `${run.computer} ${run.disk}${run.serial ? `, serial ${run.serial}` : ''}` : run.destination }}</dd></div>
      <div><dt>Writes</dt><dd>{{ run.kind === 'capture' ? run.destination : 'nothing' }}</dd></div>
      <div><dt>Rate</dt><dd>{{ run.rateBytes ? `${size(run.rateBytes)} a second` : 'not known yet' }}</dd></div>
    </dl>
    <p class="visually-hidden" aria-live="polite">{{ run.imageName }}: {{ Math.floor(share / 10) * 10 }} percent</p>
  </article>
</template>

<style scoped>
article { border-top: 1px solid var(--ink); padding: 14px 0 18px; }
.head { display: flex; justify-content: space-between; align-items: center; min-height: 34px; gap: 16px; }
h2 { font-size: 20px; margin: 0; }
.ask { display: flex; gap: 10px; align-items: center; font-size: 13.5px; }
.p-progressbar { margin: 8px 0 12px; }
dl { display: grid; grid-template-columns: 1.3fr 1.2fr 1.6fr; gap: 6px 24px; margin: 0; font-size: 14px; }
dl div { display: flex; gap: 10px; }
dt { color: var(--ink-soft); width: 52px; flex: none; }
dd { margin: 0; }
</style>
