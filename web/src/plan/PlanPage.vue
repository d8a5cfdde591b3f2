<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, nextTick, reactive, ref, watch } from 'vue'
import { Refusal, sentenceOf } from '../api/client'
import type { PlanForm } from '../api/types'
import { useAction } from '../api/useAction'
import CompressionTable from '../capture/CompressionTable.vue'
import DestinationBins from '../capture/DestinationBins.vue'
import SamplingNote from '../capture/SamplingNote.vue'
import StageBars from '../capture/StageBars.vue'
import { choicesWith } from '../capture/storageChoices'
import { useProspects } from '../query/estimates'
import DiskStrip from '../computer/DiskStrip.vue'
import PageHeading from '../frame/PageHeading.vue'
import { useMargin } from '../frame/useMargin'
import { useUnits } from '../measure/useUnits'
import { formatRange } from '../measure/times'
import { useWidth } from '../measure/useWidth'
import { useSession } from '../session/useSession'
import DriveTurns from './DriveTurns.vue'
import PlanFields from './PlanFields.vue'
import PlanReview from './PlanReview.vue'
import { same } from './planWords'
import { useDisk } from '../query/computers'
import { useReview } from '../query/plans'

/**
 * One plan, new or saved, all of it on one page. `save` keeps it and throws the server's refusal; `draft` is a version read from a file.
 */
const props = defineProps<{
  savedForm: PlanForm
  draft?: PlanForm
  save: (form: PlanForm) => Promise<void>
  fresh?: boolean
  paused?: boolean
}>()
const emit = defineEmits<{ taken: [] }>()
const { size, between } = useUnits()
const margin = useMargin()
const { mayAct } = useSession()
const copyOf = (form: PlanForm): PlanForm => JSON.parse(JSON.stringify(form)) as PlanForm
const form = reactive(copyOf(props.draft ?? props.savedForm))
const conflict = ref(false)
const reviewing = ref(false)
const box = ref<HTMLElement | null>(null)
const confirm = ref<InstanceType<typeof PlanReview> | null>(null)
const width = useWidth(box)

const changed = computed(() => props.fresh || !same(form as PlanForm, props.savedForm))
watch(
  () => props.savedForm,
  (now, before) => {
    // another look at an unchanged page takes over what others changed; what is being edited is never thrown away
    if (same(form as PlanForm, before)) Object.assign(form, copyOf(now))
  },
)

const choices = computed(() => choicesWith(form.codec, form.level))
const choice = computed({
  get: () => choices.value.find((c) => c.codec === form.codec && c.level === form.level)?.key ?? '',
  set: (key: string) => {
    const chosen = choices.value.find((c) => c.key === key)
    if (chosen) Object.assign(form, { codec: chosen.codec, level: chosen.level ?? 0 })
  },
})
const disk = useDisk(() => form.source.diskId)
const there = computed(() => disk.data.value?.attached === true)
const estimates = useProspects({
  diskId: () => (there.value ? form.source.diskId : ''),
  choices,
  splitBytes: () => form.splitBytes,
  allBlocks: () => form.allBlocks,
  keepSwap: () => form.keepSwap,
  without: () => form.source.without,
  encrypted: () => form.encrypted,
  byClock: true,
})
const chosenEstimate = computed(() => estimates.value[choices.value.findIndex((c) => c.key === choice.value)])
const prospect = computed(() => chosenEstimate.value?.data)
const leftOut = computed(() => (disk.data.value?.partitions ?? []).flatMap((p) => p.leftOut).reduce((sum, l) => sum + l.bytes, 0))
watch(prospect, (now) => now && [now.working, ...now.destinations.map((d) => d.working)].forEach(margin.refresh))

const drives = computed({
  get: () => form.destinations.map((d) => d.id),
  set: (ids: string | string[]) => {
    const names = new Map(prospect.value?.destinations.map((d) => [d.id, d.name]))
    form.destinations = [ids].flat().map((id) => form.destinations.find((d) => d.id === id) ?? { id, name: names.get(id) ?? id })
  },
})
const first = computed(() => {
  const fit = (prospect.value?.destinations ?? []).filter((d) => d.fit).sort((a, b) => a.rank - b.rank)
  return fit.find((d) => drives.value.includes(d.id)) ?? fit[0]
})
const fits = computed(() => {
  const chosen = (prospect.value?.destinations ?? []).filter((d) => drives.value.includes(d.id))
  if (!chosen.length) return 'No drive is chosen yet.'
  const fit = chosen.filter((d) => d.fit).map((d) => d.name)
  const not = chosen
    .filter((d) => !d.fit)
    .map((d) => `${d.name} ${d.roomAfterBytes < 0 ? `is ${size(-d.roomAfterBytes)} short` : 'does not take it now'}`)
  return `${fit.length ? `Fits ${fit.join(', ')}` : 'Fits none of its drives'}${not.length ? `; ${not.join(', ')}` : ''}.`
})

const sent = computed(() => copyOf(form as PlanForm))
const review = useReview(sent, () => mayAct.value)
const refusedField = computed(() => (review.error.value instanceof Refusal ? review.error.value.field : ''))
const problems = computed(() => review.data.value?.problems ?? [])

const {
  act: keep,
  busy,
  refused,
} = useAction(async () => {
  conflict.value = false
  try {
    await props.save(copyOf(form as PlanForm))
    reviewing.value = false
  } catch (failure) {
    conflict.value = failure instanceof Refusal && failure.status === 412
    throw failure
  }
})

async function look() {
  reviewing.value = true
  await nextTick()
  confirm.value?.come()
}

function startOver() {
  Object.assign(form, copyOf(props.savedForm))
  reviewing.value = false
}

function takeTheirs() {
  // what others saved becomes what this page compares with; the edits stay in the form
  emit('taken')
  conflict.value = false
}
</script>

<template>
  <PageHeading :title="`${form.source.computer}, ${form.source.disk}`">
    <template v-if="prospect">
      About
      <button type="button" class="figure" @click="margin.open(prospect.working)">
        <b>{{ size(prospect.likelyBytes) }}</b></button
      >{{ between(prospect.lowBytes, prospect.highBytes) }}.
      {{ fits }}
    </template>
    <template v-else-if="disk.data.value && !there"
      >The disk is not attached, so its image cannot be estimated now. The plan can still be changed.</template
    >
    <SamplingNote v-else-if="there && !chosenEstimate?.error" :disk-id="form.source.diskId" />
    <template #action>
      <Button v-if="changed && !fresh" label="Start over" severity="secondary" outlined class="over" @click="startOver" />
      <Button
        :label="changed ? 'Save the plan' : 'Saved'"
        :disabled="!changed || !mayAct"
        :title="mayAct ? '' : 'This account can only look'"
        @click="look"
      />
    </template>
  </PageHeading>
  <p v-if="chosenEstimate?.error && there" class="notice" role="alert">{{ sentenceOf(chosenEstimate.error) }}</p>
  <p v-if="disk.error.value" class="notice" role="alert">
    {{ form.source.computer }}, {{ form.source.disk }} is not in this office any more. The plan is kept; pause it, or copy it to another
    disk.
  </p>
  <PlanReview
    v-if="reviewing"
    ref="confirm"
    :sentence="review.data.value?.sentence ?? ''"
    :problems="problems"
    :unreadable="review.error.value ? sentenceOf(review.error.value) : ''"
    :refused="refused"
    :conflict="conflict"
    :busy="busy"
    @save="keep"
    @edit="reviewing = false"
    @theirs="takeTheirs"
  />

  <div ref="box">
    <template v-if="disk.data.value && width">
      <div class="row">
        <h2 class="section">What is read</h2>
        <span class="soft small"
          >{{ disk.data.value.model }}, {{ size(disk.data.value.sizeBytes) }}, serial {{ disk.data.value.serial || 'none' }},
          {{ disk.data.value.scheme.toUpperCase() }}, {{ disk.data.value.sectorBytes }}-byte sectors</span
        >
      </div>
      <DiskStrip v-model:without="form.source.without" :disk="disk.data.value" :width="width" :height="30" labels :switchable="mayAct" />
    </template>
  </div>

  <div class="columns">
    <section>
      <label class="name"
        ><span class="soft small">The plan's name</span
        ><InputText v-model="form.name" size="small" fluid maxlength="100" :disabled="!mayAct" :invalid="refusedField === 'name'"
      /></label>
      <template v-if="there">
        <h2 class="section">Compression, and what it costs</h2>
        <CompressionTable v-model="choice" :choices="choices" :estimates="estimates" :first="first" :locked="!mayAct" />
      </template>
      <PlanFields
        :form="form"
        :left-out-bytes="leftOut"
        :locked="!mayAct"
        :refused-field="refusedField"
        :example-name="review.data.value?.exampleName ?? ''"
      />
    </section>
    <section>
      <div class="row">
        <h2 class="section">Where it may go</h2>
        <span class="soft small">one scale; ticks: 2 % or 1 GB kept in reserve</span>
      </div>
      <DestinationBins
        v-if="prospect"
        v-model="drives"
        several
        :destinations="prospect.destinations"
        :low-bytes="prospect.lowBytes"
        :high-bytes="prospect.highBytes"
        :may-act="mayAct"
        @show="margin.open"
      />
      <p v-else-if="!there" class="soft">Its drives: {{ form.destinations.map((d) => d.name).join(', ') || 'none' }}.</p>
      <DriveTurns v-if="drives.length > 1" v-model="form.inTurn" :locked="!mayAct" />
      <template v-if="first">
        <div class="row how-long">
          <h2 class="section">How long, on {{ first.name }}</h2>
          <span class="soft small"
            ><button type="button" class="figure" @click="margin.open(first.time.working)">
              {{ formatRange(first.time.lowSeconds, first.time.highSeconds) }}
            </button>
            in all, by the clock</span
          >
        </div>
        <StageBars :time="first.time" />
      </template>
      <div class="aside">
        <h2 class="section">Read back</h2>
        <p v-if="review.error.value" class="brick">{{ sentenceOf(review.error.value) }}</p>
        <p v-else class="soft">{{ review.data.value?.sentence }}</p>
        <p v-for="p in problems" :key="p.sentence" class="small" :class="{ brick: p.refused }">{{ p.sentence }}</p>
      </div>
    </section>
  </div>
  <slot />
</template>

<style scoped>
.row { display: flex; justify-content: space-between; align-items: baseline; gap: 16px; }
.columns { display: grid; grid-template-columns: minmax(330px, 5fr) minmax(360px, 6fr); gap: 30px; margin-top: 8px; }
/* neither column grows over the other, whatever stands in it */
.columns > section { min-width: 0; }
.over { margin-right: 10px; }
.name { display: block; margin-bottom: 10px; }
.how-long { margin-top: 10px; }
.how-long h2.section.section { margin-bottom: 4px; }
.aside { border-top: 1px solid var(--rule); margin-top: 10px; padding-top: 8px; font-size: 13.5px; }
.aside p { margin-bottom: 4px; }
</style>
