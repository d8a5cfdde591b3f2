<script setup lang="ts">
import Button from 'primevue/button'
import { computed, nextTick, ref, watch, type Ref } from 'vue'
import { Refusal, sentenceOf } from '../api/client'
import type { PlanForm } from '../api/types'
import { useAction } from '../api/useAction'
import CompressionTable from '../capture/CompressionTable.vue'
import DestinationBins from '../capture/DestinationBins.vue'
import SamplingNote from '../capture/SamplingNote.vue'
import StoringFields from '../capture/StoringFields.vue'
import { choicesWith } from '../capture/storageChoices'
import { useProspects } from '../query/estimates'
import DiskStrip from '../computer/DiskStrip.vue'
import { tellAtFields } from '../field/refusedField'
import TextField from '../field/TextField.vue'
import { useEdited } from '../field/useEdited'
import FolderField from '../folder/FolderField.vue'
import PageHeading from '../frame/PageHeading.vue'
import { useMargin } from '../frame/useMargin'
import { useUnsaved } from '../frame/useUnsaved'
import { useUnits } from '../measure/useUnits'
import { useWidth } from '../measure/useWidth'
import { useSession } from '../session/useSession'
import DriveTurns from './DriveTurns.vue'
import HandlingFields from './HandlingFields.vue'
import KeepFields from './KeepFields.vue'
import PlanAside from './PlanAside.vue'
import PlanReview from './PlanReview.vue'
import RhythmFields from './RhythmFields.vue'
import { fitWords } from './planWords'
import { useDisk } from '../query/computers'
import { useReview } from '../query/plans'

/**
 * One plan, new or saved, all of it on one page. `save` keeps it and throws the server's refusal; `draft` is a version read from a file.
 */
const props = defineProps<{
  saved: { form: PlanForm; version: number }
  draft?: PlanForm
  save: (form: PlanForm, version: number) => Promise<void>
  /** Asks anew for what is saved. */
  again?: () => Promise<{ form: PlanForm; version: number } | undefined>
  fresh?: boolean
  /** Whether it was just removed: then nothing of it is left to be saved. */
  gone?: boolean
}>()
const { size, between } = useUnits()
const margin = useMargin()
const { mayAct } = useSession()
const copyOf = (form: PlanForm): PlanForm => JSON.parse(JSON.stringify(form)) as PlanForm
const edited = useEdited(
  () => props.saved,
  (saved) => saved.form,
)
const form = edited.form as Ref<PlanForm>
if (props.draft) form.value = copyOf(props.draft)
const reviewing = ref(false)
const box = ref<HTMLElement | null>(null)
const confirm = ref<InstanceType<typeof PlanReview> | null>(null)
const width = useWidth(box)

const changed = computed(() => props.fresh || edited.dirty.value)
const choices = computed(() => choicesWith(form.value.codec, form.value.level))
const choice = computed({
  get: () => choices.value.find((c) => c.codec === form.value.codec && c.level === form.value.level)?.key ?? '',
  set: (key: string) => {
    const chosen = choices.value.find((c) => c.key === key)
    if (chosen) Object.assign(form.value, { codec: chosen.codec, level: chosen.level ?? 0 })
  },
})
const disk = useDisk(() => form.value.source.diskId)
const there = computed(() => disk.data.value?.attached === true)
const estimates = useProspects({
  diskId: () => (there.value ? form.value.source.diskId : ''),
  choices,
  splitBytes: () => form.value.splitBytes,
  allBlocks: () => form.value.allBlocks,
  keepSwap: () => form.value.keepSwap,
  without: () => form.value.source.without,
  encrypted: () => form.value.encrypted,
  byClock: true,
})
const chosenEstimate = computed(() => estimates.value[choices.value.findIndex((c) => c.key === choice.value)])
const prospect = computed(() => chosenEstimate.value?.data)
const leftOut = computed(() => (disk.data.value?.partitions ?? []).flatMap((p) => p.leftOut).reduce((sum, l) => sum + l.bytes, 0))
const awaited = computed(() => (there.value || disk.isPending.value) && !chosenEstimate.value?.error)
watch(prospect, (now) => now && [now.working, ...now.destinations.map((d) => d.working)].forEach(margin.refresh))

const drives = computed({
  get: () => form.value.destinations.map((d) => d.id),
  set: (ids: string | string[]) => {
    const names = new Map(weighed.value.map((d) => [d.id, d.name]))
    const before = form.value.destinations
    form.value.destinations = [ids].flat().map((id) => before.find((d) => d.id === id) ?? { id, name: names.get(id) ?? id })
  },
})
const weighed = computed(() => prospect.value?.destinations ?? [])
const first = computed(() => {
  const fit = weighed.value.filter((d) => d.fit).sort((a, b) => a.rank - b.rank)
  return fit.find((d) => drives.value.includes(d.id)) ?? fit[0]
})
const among = computed(() => weighed.value.filter((d) => drives.value.includes(d.id)))
const fits = computed(() => fitWords(among.value, size))

const sent = computed(() => copyOf(form.value))
const review = useReview(sent, () => mayAct.value)
const unreadable = tellAtFields(
  computed(() => (review.error.value instanceof Refusal ? review.error.value : null)),
  false,
)
const problems = computed(() => review.data.value?.problems ?? [])

const kept = ref(false)
useUnsaved(() => !kept.value && !props.gone && edited.dirty.value, 'the plan')

const {
  act: keep,
  whileBusy,
  busy,
  refused,
  conflict,
} = useAction(async () => {
  try {
    kept.value = true // a new one leads on to its own page
    await props.save(copyOf(form.value), edited.record.value!.version)
    await nextTick()
    edited.begin()
    reviewing.value = false
  } finally {
    kept.value = false
  }
})

async function look() {
  reviewing.value = true
  await nextTick()
  confirm.value?.come()
}

function startOver() {
  edited.begin()
  reviewing.value = false
}

const keepMine = () => whileBusy(async () => edited.goOn(await props.again?.()))
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
    @keep="keepMine"
  />

  <div class="page">
    <div class="groups">
      <section ref="box" aria-labelledby="plan-what">
        <div class="row">
          <h2 id="plan-what" class="section">What is read, and how it is stored</h2>
          <span v-if="disk.data.value" class="soft small"
            >{{ disk.data.value.model }}, {{ size(disk.data.value.sizeBytes) }}, serial {{ disk.data.value.serial || 'none' }},
            {{ disk.data.value.scheme.toUpperCase() }}, {{ disk.data.value.sectorBytes }}-byte sectors</span
          >
        </div>
        <DiskStrip
          v-if="disk.data.value && width"
          v-model:without="form.source.without"
          :disk="disk.data.value"
          :width="width"
          :height="30"
          labels
          :switchable="mayAct"
        />
        <fieldset :disabled="!mayAct" class="pair">
          <StoringFields
            v-model:all-blocks="form.allBlocks"
            v-model:keep-swap="form.keepSwap"
            v-model:split-bytes="form.splitBytes"
            v-model:encrypted="form.encrypted"
            :left-out-bytes="leftOut"
          />
          <CompressionTable v-if="there" v-model="choice" :choices="choices" :estimates="estimates" :first="first" :locked="!mayAct" />
        </fieldset>
      </section>

      <section aria-labelledby="plan-where">
        <div class="row">
          <h2 id="plan-where" class="section">Where it goes</h2>
          <span v-if="prospect" class="soft small">one scale; ticks: 2 % or 1 GB kept in reserve</span>
        </div>
        <DestinationBins
          v-if="prospect || awaited"
          v-model="drives"
          several
          :destinations="prospect?.destinations"
          :low-bytes="prospect?.lowBytes ?? 0"
          :high-bytes="prospect?.highBytes ?? 0"
          :may-act="mayAct"
          @show="margin.open"
        />
        <p v-else class="soft">Its drives: {{ form.destinations.map((d) => d.name).join(', ') || 'none' }}.</p>
        <fieldset :disabled="!mayAct">
          <DriveTurns v-if="drives.length > 1" v-model="form.inTurn" />
          <div class="pair">
            <TextField
              v-model="form.naming"
              name="naming"
              label="Images are named"
              :hint="review.data.value?.exampleName"
              fluid
              maxlength="100"
              spellcheck="false"
            />
            <FolderField v-model="form.folder" label="Folder" :disk-id="form.source.diskId" where="As the office chose:" />
          </div>
        </fieldset>
      </section>

      <section aria-labelledby="plan-when">
        <h2 id="plan-when" class="section">When, and how long it is kept</h2>
        <fieldset :disabled="!mayAct" class="when">
          <RhythmFields :form="form" />
          <KeepFields :keep="form.keep" />
          <HandlingFields :form="form" />
        </fieldset>
      </section>
    </div>

    <PlanAside
      :sentence="review.data.value?.sentence ?? ''"
      :problems="problems"
      :unreadable="unreadable"
      :marked="!!review.error.value"
      :first="first"
      @show="margin.open"
    >
      <TextField v-model="form.name" name="name" label="The plan's name" fluid maxlength="100" :disabled="!mayAct" />
    </PlanAside>
  </div>
  <slot />
</template>

<style scoped>
.row { display: flex; justify-content: space-between; align-items: baseline; gap: 4px 16px; flex-wrap: wrap; }
.page { display: grid; grid-template-columns: minmax(0, 1fr) 276px; gap: 30px; }
.groups, .when { min-width: 0; display: grid; gap: 18px; }
.groups > section { min-width: 0; } /* no column grows over another, whatever stands in it */
.pair {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(330px, 100%), 1fr));
  gap: 14px 30px; margin-top: 14px;
}
fieldset { border: 0; padding: 0; margin: 0; min-width: 0; }
.over { margin-right: 10px; }
</style>
