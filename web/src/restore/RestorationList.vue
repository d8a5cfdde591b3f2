<script setup lang="ts">
import Button from 'primevue/button'
import { computed, reactive, ref, watch } from 'vue'
import TextField from '../field/TextField.vue'
import { client } from '../api/client'
import type { RestorationLine } from '../api/types'
import { useAction } from '../api/useAction'
import { useUnits } from '../measure/useUnits'
import { formatMoment, formatRange } from '../measure/times'
import { useNow } from '../measure/useNow'
import { useLiveRuns } from '../run/useLiveRuns'
import { useSession } from '../session/useSession'
import { useChanged } from '../query/ask'
import { useRestorations } from '../query/restorations'

/** What is being written, what waits to be looked at and signed, spares, and what was signed of late. */
const changed = useChanged()
const { mayAct } = useSession()
const { runs } = useLiveRuns()
const { size } = useUnits()
const all = useRestorations()
const now = useNow(3_600_000)
const openOnes = computed(() => (all.data.value ?? []).filter((r) => !r.retired && !r.signedAt))
const spares = computed(() => (all.data.value ?? []).filter((r) => r.kind === 'spare' && r.state === 'done' && !r.retired))
const looked = reactive<Record<string, string[]>>({})
const notes = reactive<Record<string, string>>({})
const typed = reactive<Record<string, string>>({})
const secrets = reactive<Record<string, string>>({})
const places = reactive<Record<string, string>>({})
const about = ref('')
watch(
  () => openOnes.value.map((r) => r.state).join(),
  () => void changed('targets'),
)
/** A spare grows old like an image: what changed since is not on it. */
const OLD_DAYS = 92
const old = (s: RestorationLine) => {
  const days = Math.floor((now.value - new Date(s.madeAt).getTime()) / 86_400_000)
  return days > OLD_DAYS ? `${days} days old: refresh it` : ''
}
const live = (r: RestorationLine) => runs.value.find((one) => one.id === r.runId)
const ticked = (id: string) => (looked[id] ??= [])

const { act, busy, refused } = useAction(async (what: string, r: RestorationLine) => {
  about.value = r.id
  const params = { path: { id: r.id } }
  if (what === 'sign') await client.POST('/api/v1/restore/{id}/sign', { params, body: { checks: ticked(r.id), note: notes[r.id] ?? '' } })
  else if (what === 'carry-on')
    await client.POST('/api/v1/restore/{id}/carry-on', {
      params,
      body: { confirmation: typed[r.id] ?? '', passphrase: secrets[r.id] || null },
    })
  else if (what === 'place') await client.POST('/api/v1/restore/{id}/place', { params, body: { place: places[r.id] ?? '' } })
  else await client.POST('/api/v1/restore/{id}/retire', { params })
  await all.refetch()
  void changed('images')
})
</script>

<template>
  <section v-for="r in openOnes" :key="r.id" class="one">
    <h2 class="section">
      {{ r.forComputer }}: {{ r.imageName }} onto {{ r.target }} <span class="soft">serial {{ r.targetSerial }}</span>
    </h2>
    <p v-if="live(r)" role="status">
      {{
        live(r)!.stage === 'comparing' ? 'Reading back, comparing' : live(r)!.stage === 'checking' ? 'Proving the image first' : 'Writing'
      }}: {{ size(live(r)!.doneBytes) }} of {{ size(live(r)!.totalBytes) }},
      {{ formatRange(live(r)!.lowSecondsLeft, live(r)!.highSecondsLeft) }} left. <RouterLink to="/runs">Runs</RouterLink>
    </p>
    <p v-else-if="r.state === 'running'" class="soft">It is being written.</p>
    <p v-else-if="r.state === 'queued'" class="soft">It waits until its devices are free.</p>
    <template v-else-if="r.state === 'failed' || r.state === 'stopped'">
      <p class="brick">{{ r.outcome }}</p>
      <div v-if="mayAct" class="does">
        <TextField
          :model-value="typed[r.id] ?? ''"
          maxlength="8"
          label="Last four of its serial"
          :aria-label="`Last four characters of the serial of ${r.target}`"
          @update:model-value="typed[r.id] = $event"
        />
        <TextField
          :model-value="secrets[r.id] ?? ''"
          type="password"
          autocomplete="off"
          label="Passphrase, if it has one"
          :aria-label="`Passphrase of ${r.imageName}`"
          @update:model-value="secrets[r.id] = $event"
        />
        <Button
          label="Carry on"
          size="small"
          severity="danger"
          :loading="busy && about === r.id"
          :disabled="!typed[r.id]"
          @click="act('carry-on', r)"
        />
        <button type="button" class="figure" @click="act('retire', r)">close it without signing</button>
      </div>
    </template>
    <template v-else-if="r.state === 'done'">
      <p class="moss">{{ r.outcome }}</p>
      <details v-if="r.lost.length" class="small">
        <summary class="brick">{{ r.flaw }}: the files that lie there</summary>
        <p v-for="file in r.lost" :key="file">{{ file }}</p>
      </details>
      <p v-else-if="r.flaw" class="brick small">{{ r.flaw }}. No file is known to lie there.</p>
      <p class="checks">
        <label v-for="c in r.checks" :key="c"
          ><input v-model="looked[r.id]" type="checkbox" :value="c" @vue:before-mount="ticked(r.id)" /> {{ c }}</label
        >
      </p>
      <div v-if="mayAct" class="does">
        <TextField
          :model-value="notes[r.id] ?? ''"
          maxlength="900"
          label="Note, if there is one"
          :aria-label="`Note for ${r.forComputer}`"
          @update:model-value="notes[r.id] = $event"
        />
        <Button
          :label="r.kind === 'spare' ? 'Sign: the spare starts the computer' : `Sign: ${r.forComputer} is back`"
          size="small"
          :loading="busy && about === r.id"
          @click="act('sign', r)"
        />
        <button type="button" class="figure" @click="act('retire', r)">close it without signing</button>
      </div>
    </template>
    <p v-if="refused && about === r.id" class="notice" role="alert">{{ refused }}</p>
  </section>
  <section v-if="spares.length" class="one">
    <h2 class="section">Spares</h2>
    <table>
      <tbody>
        <tr v-for="s in spares" :key="s.id">
          <td>
            <b>{{ s.target }}</b>, serial {{ s.targetSerial }}
          </td>
          <td>
            {{ s.imageName }}, as of {{ formatMoment(s.madeAt) }}<span v-if="old(s)" class="brick small"><br />{{ old(s) }}</span>
          </td>
          <td>
            {{ s.signedAt ? 'ready: tried and signed' : 'never tried' }}<span v-if="s.flaw" class="brick small"><br />{{ s.flaw }}</span>
          </td>
          <td>
            <template v-if="s.place">lies {{ s.place }}</template
            ><TextField
              v-else
              :model-value="places[s.id] ?? ''"
              label="Where it lies"
              :aria-label="`Where ${s.target} lies`"
              @update:model-value="places[s.id] = $event"
              @keydown.enter="act('place', s)"
            />
          </td>
          <td v-if="mayAct" class="number">
            <button v-if="!s.place" type="button" class="figure" @click="act('place', s)">note it</button>&ensp;<RouterLink
              :to="{ path: '/restore', query: { disk: s.diskId, computer: s.computer, refresh: s.id, serial: s.targetSerial } }"
              >refresh it</RouterLink
            >&ensp;<button
              type="button"
              class="figure"
              @click="act('retire', s)"
            >
              no spare any more
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="refused && spares.some((s) => s.id === about)" class="notice" role="alert">{{ refused }}</p>
  </section>
</template>

<style scoped>
.one { border-top: 2px solid var(--ink); padding: 6px 0 12px; margin-bottom: 12px; }
h2.section.section { margin: 0 0 4px; }
h2.section.section .soft { font-weight: 400; font-size: 13px; }
.checks label { display: block; margin: 2px 0; }
.does { display: flex; gap: 10px; align-items: center; }
input { accent-color: var(--grain); }
@media print {
  .one { display: none; }
}
</style>
