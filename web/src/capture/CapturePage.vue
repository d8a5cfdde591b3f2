<script setup lang="ts">
import { keepPreviousData, useQueries, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { answer, client, sentenceOf } from '../api/client'
import { useAction } from '../api/useAction'
import DiskStrip from '../computer/DiskStrip.vue'
import PageHeading from '../frame/PageHeading.vue'
import { useMargin } from '../frame/useMargin'
import { useUnits } from '../frame/useUnits'
import { formatRange } from '../measure/times'
import { useWidth } from '../measure/useWidth'
import { useSession } from '../session/useSession'
import DestinationBins from './DestinationBins.vue'
import StageBars from './StageBars.vue'
import { CHOICES, SPLITS, type ChoiceKey } from './storageChoices'

const props = defineProps<{ diskId: string }>()
const router = useRouter()
const { size } = useUnits()
const margin = useMargin()
const { mayAct } = useSession()
const box = ref<HTMLElement | null>(null)
const width = useWidth(box)

const choice = ref<ChoiceKey>('balanced')
const allBlocks = ref(false)
const keepSwap = ref(false)
const splitBytes = ref<number | null>(null)
const destination = ref('')
const name = ref('')
const named = ref(false)

const disk = useQuery({ queryKey: ['disk', props.diskId], queryFn: () => answer(client.GET('/api/v1/computers/disks/{id}', { params: { path: { id: props.diskId } } })) })
const estimates = useQueries({
  queries: computed(() => CHOICES.map((c) => ({
    queryKey: ['estimate', props.diskId, c.codec, c.level, splitBytes.value, allBlocks.value, keepSwap.value],
    queryFn: () => answer(client.GET('/api/v1/estimates', {
      params: { query: { diskId: props.diskId, codec: c.codec, level: c.level ?? undefined, splitBytes: splitBytes.value ?? undefined, allBlocks: allBlocks.value, keepSwap: keepSwap.value } },
    })),
    placeholderData: keepPreviousData,
    retry: false,
    // only the destinations move: the server keeps the sample for a while
    refetchInterval: 4_000,
  }))),
})
const chosenEstimate = computed(() => estimates.value[CHOICES.findIndex((c) => c.key === choice.value)])
const prospect = computed(() => chosenEstimate.value?.data)
const target = computed(() => prospect.value?.destinations.find((d) => d.id === destination.value))
const first = computed(() => target.value ?? prospect.value?.destinations.find((d) => d.rank === 1))

watch(prospect, (now) => {
  if (!now) return
  if (!named.value) name.value = now.suggestedName
  if (destination.value && !now.destinations.find((d) => d.id === destination.value)?.fit) destination.value = ''
  margin.refresh(now.working)
})

const leftOut = computed(() => (disk.data.value?.partitions ?? []).flatMap((p) => p.leftOut).reduce((sum, l) => sum + l.bytes, 0))
const title = computed(() => (prospect.value ? `${prospect.value.computer}, ${prospect.value.disk}` : disk.data.value ? disk.data.value.name : 'Make an image'))
const fits = computed(() => {
  const all = prospect.value?.destinations ?? []
  const fit = all.filter((d) => d.fit).map((d) => d.name)
  const short = all.filter((d) => !d.fit && !d.itself && d.roomAfterBytes < 0).map((d) => `${d.name} is ${size(-d.roomAfterBytes)} short`)
  return `${fit.length ? `Fits ${fit.join(', ')}` : 'Fits nowhere'}${short.length ? `; ${short.join(', ')}` : ''}.`
})

const { act: start, busy: starting, refused } = useAction(async () => {
  const c = CHOICES.find((one) => one.key === choice.value)!
  await client.POST('/api/v1/runs', {
    body: { diskId: props.diskId, destinationId: destination.value, name: name.value, codec: c.codec, level: c.level, splitBytes: splitBytes.value, allBlocks: allBlocks.value, keepSwap: keepSwap.value },
  })
  await router.push('/runs')
})
</script>

<template>
  <PageHeading :title="title">
    <template v-if="prospect">
      About <button type="button" class="figure" @click="margin.open(prospect.working)"><b>{{ size(prospect.likelyBytes) }}</b></button>,
      <template v-if="prospect.highBytes > prospect.lowBytes">between {{ size(prospect.lowBytes) }} and {{ size(prospect.highBytes) }}.</template> {{ fits }}
    </template>
    <template v-else-if="!chosenEstimate?.error">Compressing a sample of it…</template>
    <template #action>
      <Button label="Make this image" :disabled="!target || !mayAct" :loading="starting" @click="start" :title="mayAct ? (target ? '' : 'Choose a destination first') : 'This account may only look'" />
    </template>
  </PageHeading>
  <p v-if="refused" class="notice" role="alert">{{ refused }}</p>
  <p v-if="chosenEstimate?.error" class="notice" role="alert">{{ sentenceOf(chosenEstimate.error) }}</p>
  <p v-if="disk.error.value" class="notice" role="alert">{{ sentenceOf(disk.error.value) }} <RouterLink to="/computers">Back to the computers</RouterLink></p>

  <div ref="box">
    <template v-if="disk.data.value && width">
      <div class="row"><h3>What is read</h3><span class="soft small">{{ disk.data.value.model }}, {{ size(disk.data.value.sizeBytes) }}, serial {{ disk.data.value.serial || 'none' }}, {{ disk.data.value.scheme.toUpperCase() }}, {{ disk.data.value.sectorBytes }}-byte sectors</span></div>
      <DiskStrip :disk="disk.data.value" :width="width" :height="36" labels />
    </template>
  </div>

  <div class="columns">
    <section>
      <h3>Compression, by what it costs</h3>
      <table class="choices">
        <thead><tr><th></th><th class="number">stored</th><th class="number">time{{ first ? `, ${first.name}` : '' }}</th><th>held up by</th></tr></thead>
        <tbody>
          <tr v-for="(c, i) in CHOICES" :key="c.key" :class="{ chosen: choice === c.key }" @click="choice = c.key">
            <td><label><input v-model="choice" type="radio" name="choice" :value="c.key" /> {{ c.name }}</label></td>
            <template v-if="estimates[i]?.data">
              <td class="number">{{ size(estimates[i]!.data!.likelyBytes) }}</td>
              <template v-for="time in [estimates[i]!.data!.destinations.find((d) => d.id === first?.id)?.time]" :key="c.key">
                <td class="number">{{ time ? formatRange(time.lowSeconds, time.highSeconds) : '' }}</td><td class="soft">{{ time?.slowest }}</td>
              </template>
            </template>
            <td v-else colspan="3" class="soft number">{{ estimates[i]?.error ? '' : 'sampling…' }}</td>
          </tr>
        </tbody>
      </table>
      <h3>The rest</h3>
      <table class="rest">
        <tbody>
          <tr>
            <td class="soft">Blocks</td>
            <td>
              <label><input v-model="allBlocks" type="radio" name="blocks" :value="false" /> used ones</label>
              <label><input v-model="allBlocks" type="radio" name="blocks" :value="true" /> all, free ones too</label>
            </td>
          </tr>
          <tr v-if="leftOut && !allBlocks">
            <td class="soft">Swap, page files</td>
            <td>
              <label><input v-model="keepSwap" type="radio" name="swap" :value="false" /> left out, {{ size(leftOut) }}</label>
              <label><input v-model="keepSwap" type="radio" name="swap" :value="true" /> kept</label>
            </td>
          </tr>
          <tr>
            <td class="soft">Stored as</td>
            <td><label v-for="s in SPLITS" :key="s.name"><input v-model="splitBytes" type="radio" name="split" :value="s.bytes" /> {{ s.name }}</label></td>
          </tr>
          <tr>
            <td class="soft"><label for="image-name">Name</label></td>
            <td><InputText id="image-name" v-model="name" fluid size="small" maxlength="100" @input="named = true" /></td>
          </tr>
          <tr><td class="soft">Proof after</td><td>every digest and every frame, read back</td></tr>
        </tbody>
      </table>
    </section>
    <section>
      <div class="row"><h3>Where it fits</h3><span class="soft small">one scale; ticks: 2 % or 1 GB kept in reserve</span></div>
      <DestinationBins v-if="prospect" v-model="destination" :destinations="prospect.destinations" :low-bytes="prospect.lowBytes" :high-bytes="prospect.highBytes" :may-act="mayAct" @show="margin.open" />
    </section>
  </div>

  <section v-if="first" class="how-long">
    <div class="row">
      <h3>How long, on {{ first.name }}</h3>
      <span class="soft small"><button type="button" class="figure" @click="margin.open(first.time.working)">{{ formatRange(first.time.lowSeconds, first.time.highSeconds) }}</button> in all; a step waits only for the slowest beside it</span>
    </div>
    <StageBars :time="first.time" />
  </section>
</template>

<style scoped>
.row { display: flex; justify-content: space-between; align-items: baseline; gap: 16px; }
.columns { display: grid; grid-template-columns: minmax(330px, 5fr) minmax(360px, 6fr); gap: 30px; margin-top: 8px; }
.choices { margin-bottom: 12px; }
.choices td, .choices th, .rest td { padding-top: 4px; padding-bottom: 4px; }
.choices tbody tr { cursor: pointer; }
.choices tr.chosen td { background: var(--wash); font-weight: 600; }
.choices tr.chosen td:first-child { box-shadow: inset 3px 0 var(--grain); }
.choices td:first-child { padding-left: 8px; }
.rest td:first-child { width: 84px; white-space: nowrap; }
label { white-space: nowrap; margin-right: 12px; cursor: pointer; }
input[type='radio'] { accent-color: var(--grain); margin: 0 3px 0 0; vertical-align: -1px; }
.how-long { margin-top: 10px; border-top: 1px solid var(--rule); padding-top: 8px; }
.how-long h3 { margin-bottom: 4px; }
</style>
