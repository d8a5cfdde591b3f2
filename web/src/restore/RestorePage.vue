<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { answer, client, sentenceOf } from '../api/client'
import type { ImageLine, LayoutDetail } from '../api/types'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import SelectField from '../field/SelectField.vue'
import { formatMoment } from '../measure/times'
import { useWidth } from '../measure/useWidth'
import PassphraseField from '../run/PassphraseField.vue'
import { useSession } from '../session/useSession'
import ConfirmOverwrite from './ConfirmOverwrite.vue'
import RestoreOutlook from './RestoreOutlook.vue'
import PartChoice from './PartChoice.vue'
import ComesBack from './ComesBack.vue'
import RestorationList from './RestorationList.vue'
import RunbookList from './RunbookList.vue'
import TargetTable from './TargetTable.vue'
import type { NewPartition } from './layout'
import { useChanged } from '../query/ask'
import { useComputerList } from '../query/computers'
import { useCopies } from '../query/images'
import { useLayout } from '../query/restorations'
import { useTargets } from '../query/targets'

const route = useRoute()
const changed = useChanged()
const { mayAct } = useSession()
const body = ref<HTMLElement | null>(null)
const width = useWidth(body)

const from = ref<'image' | 'disk' | 'served'>(route.query.served ? 'served' : route.query.disk ? 'disk' : 'image')
const computer = ref(String(route.query.computer ?? ''))
const imageId = ref(String(route.query.image ?? ''))
const diskId = ref(String(route.query.disk ?? ''))
/** A virtual computer that is switched off, and keeps what it wrote. */
const servedId = String(route.query.served ?? '')
const targetId = ref('')
const strategy = ref('keep')
const stay = ref(false)
const sizes = ref<Record<string, number>>({})
const some = ref(false)
const only = ref<number[]>([])
/** All that the image or the disk holds, as the layout of all of it told. */
const parts = ref<LayoutDetail['placed']>([])
/** Partitions of the target by those of the image they go into, where that is not the one of the same number. */
const into = ref<Record<string, number>>({})
const left = ref<number[]>([])
const added = ref<NewPartition[]>([])
const zeroUnused = ref(false)
const acceptDamage = ref(false)
const allSectors = ref(false)
const shrink = ref(false)
const secret = ref('')

const computers = useComputerList()
const images = useCopies(
  () => computer.value,
  () => !!computer.value || !!imageId.value,
)
const inWords = (i: ImageLine) =>
  [
    `${formatMoment(i.madeAt)}: ${i.disk}, on ${i.destination}, ${i.damaged ? 'DAMAGED' : i.proven || 'not proven'}`,
    i.encrypted && 'encrypted',
    i.partly,
  ]
    .filter(Boolean)
    .join(', ')
const mine = (i: ImageLine) => i.computer === computer.value || i.id === imageId.value
const restorable = computed(() => (images.data.value?.lines ?? []).filter((i) => i.restorable && mine(i)))
/** Proposed: the newest that is proven and holds all of its disk. The target never is. */
watch(restorable, (all) => (imageId.value ||= all.find((i) => i.proof > 1 && !i.damaged && !i.partly)?.id ?? ''))
const proposed = computed(() => restorable.value.find((i) => i.id === imageId.value))
/** What is restored is an image only where that is what was asked for. */
const image = computed(() => (from.value === 'image' ? proposed.value : undefined))
const disks = computed(() => (computers.data.value?.computers ?? []).filter((c) => c.name === computer.value).flatMap((c) => c.disks))
const targets = useTargets()
const target = computed(() => targets.data.value?.find((t) => t.id === targetId.value))
/** A spare that is made like its disk again; asked for on this very page. */
const refreshes = computed(() => String(route.query.refresh ?? ''))
const spare = computed(() => targets.data.value?.find((t) => refreshes.value && t.serial === route.query.serial))
watch(
  [refreshes, spare],
  () => {
    if (!refreshes.value || !spare.value) return
    from.value = 'disk'
    computer.value = String(route.query.computer ?? '')
    diskId.value = String(route.query.disk ?? '')
    targetId.value = spare.value.id
  },
  { immediate: true },
)
const refreshing = computed(() => !!spare.value && targetId.value === spare.value.id)
const chosen = computed(() => (from.value === 'image' ? !!imageId.value : from.value === 'disk' ? !!diskId.value : true))

watch(proposed, (now) => now && !computer.value && (computer.value = now.computer), { immediate: true })
watch([computer, from], () => {
  if (proposed.value?.computer !== computer.value) imageId.value = ''
  if (!disks.value.some((d) => d.id === diskId.value)) diskId.value = ''
})
watch([imageId, diskId, targetId], () => {
  sizes.value = {}
  into.value = {}
  left.value = []
  added.value = []
})
watch([imageId, diskId], () => {
  some.value = false
  only.value = []
})
const byHand = computed(() => strategy.value === 'by-hand' && !some.value)

/** Numbers of those that are not left out; none where none is, which means all. */
const kept = computed(() => (left.value.length ? parts.value.map((p) => p.number).filter((n) => !left.value.includes(n)) : []))
const order = (confirmation: string) => ({
  servedId: from.value === 'served' ? servedId : null,
  imageId: from.value === 'image' ? imageId.value : null,
  diskId: from.value === 'disk' ? diskId.value : null,
  targetId: targetId.value,
  computer: computer.value,
  strategy: strategy.value,
  stay: stay.value,
  sizes: strategy.value === 'by-hand' ? { ...sizes.value } : null,
  only: some.value ? only.value : byHand.value ? kept.value : [],
  othersStay: some.value && only.value.length > 0,
  into: some.value ? { ...into.value } : null,
  added: byHand.value ? added.value : null,
  zeroUnused: zeroUnused.value,
  acceptDamage: acceptDamage.value,
  skipCheck: false,
  allSectors: from.value === 'disk' && allSectors.value,
  shrink: shrink.value,
  refreshes: refreshing.value ? refreshes.value : null,
  confirmation,
  passphrase: image.value?.encrypted ? secret.value || null : null,
})
const ready = computed(() => chosen.value && !!targetId.value && (!image.value?.encrypted || !!secret.value))
const layout = useLayout(
  () => order(''),
  () => ready.value,
)
const found = computed(() => (ready.value ? layout.data.value : undefined))
watch(found, (now) => {
  if (now && !(some.value && only.value.length) && !(byHand.value && left.value.length)) parts.value = now.placed
})
const {
  act: begin,
  busy,
  refused,
} = useAction(async (typed: string) => {
  await client.POST('/api/v1/restore', { body: order(typed) })
  targetId.value = ''
  secret.value = ''
  await changed('restorations')
  await changed('targets')
})
const said = ref('')
const { act: exportBook, refused: notExported } = useAction(async () => {
  said.value = (await answer(client.POST('/api/v1/restore/runbook', { body: { imageId: imageId.value } }))).sentence
})
const print = () => window.print()
</script>

<template>
  <PageHeading :title="computer ? `${computer} back onto a disk` : 'Restore'">
    <template v-if="from === 'image' && image"
      >As it was on <b>{{ formatMoment(image.madeAt) }}</b>. Everything since is not in this image.</template
    >
    <template v-else-if="from === 'served'"
      >As its virtual computer left it: the image, with what was written to it since it was started.</template
    >
    <template v-else-if="from === 'disk'">A bootable spare: one disk copied onto another, compared, then tried in the computer.</template>
    <template v-else
      >Choose what comes back, and the disk it goes onto. Nothing is written before you have typed that disk's serial.</template
    >
    <template #action><RouterLink to="/rollouts">One image onto many computers</RouterLink></template>
  </PageHeading>
  <div class="columns">
    <div ref="body" class="work">
      <ComesBack v-if="!computer && from === 'image'" @bring="computer = $event" />
      <RestorationList />
      <section class="choose screen">
        <div class="asked">
          <SelectField
            v-model="computer"
            label="Computer to bring back"
            placeholder="choose"
            :options="(computers.data.value?.computers ?? []).map((c) => ({ key: c.name, label: c.name }))"
          />
          <label><input v-model="from" type="radio" value="image" /> from an image</label>
          <label><input v-model="from" type="radio" value="disk" /> a spare, from its disk as it is now</label>
          <label v-if="servedId"><input v-model="from" type="radio" value="served" /> from its virtual computer</label>
        </div>
        <div class="asked" v-if="computer && from === 'image'">
          <SelectField
            v-model="imageId"
            label="Image to bring back"
            placeholder="choose; the newest is first"
            :options="restorable.map((i) => ({ key: i.id, label: inWords(i) }))"
          />
          <PassphraseField v-if="image?.encrypted" v-model="secret" />
        </div>
        <p v-if="images.isSuccess.value && computer && from === 'image' && !restorable.length" class="empty">
          There is no image of {{ computer }} that Granary can restore. What other tools made is restored with them.
        </p>
        <div class="asked" v-if="computer && from === 'disk'">
          <SelectField
            v-model="diskId"
            label="Disk to copy"
            placeholder="choose"
            :options="disks.map((d) => ({ key: d.id, label: [d.name, d.model, d.serial].filter(Boolean).join(', ') }))"
          />
        </div>
        <template v-if="chosen">
          <h2 class="section">Onto</h2>
          <TargetTable
            v-model="targetId"
            :targets="targets.data.value ?? []"
            :kinds="['spare', 'stick']"
            :allowed="refreshing ? targetId : ''"
            name="target"
            fixed
          />
        </template>
        <p v-if="refreshing" class="small">
          The spare is read first, and only what differs from {{ from === 'image' ? 'the image' : 'the disk' }} is written.
        </p>
        <PartChoice
          v-if="!refreshing && targetId && parts.length > 0"
          v-model:some="some"
          v-model:only="only"
          v-model:into="into"
          :parts="parts"
          :there="found?.there ?? []"
        />
      </section>
      <p v-if="ready && layout.error.value" class="notice" role="alert">{{ sentenceOf(layout.error.value) }}</p>
      <RestoreOutlook
        v-if="found && target"
        v-model:strategy="strategy"
        v-model:sizes="sizes"
        v-model:stay="stay"
        v-model:left="left"
        v-model:added="added"
        :parts="parts"
        v-model:zero-unused="zeroUnused"
        v-model:accept-damage="acceptDamage"
        v-model:all-sectors="allSectors"
        v-model:shrink="shrink"
        :found="found"
        :target="target"
        :from="from" :image="image" :width="width"
      >
        <p v-for="r in found.refusals" :key="r" class="notice" role="alert">{{ r }}</p>
        <p v-if="found.shrinkable && mayAct" class="screen">
          <button type="button" class="choice" @click="shrink = true">Make it smaller on the way</button>
        </p>
        <ConfirmOverwrite
          v-if="mayAct && !found.refusals.length && (!some || only.length)"
          class="screen" :target="target" :part="some ? found.placed.map((p) => p.name || `partition ${p.number}`).join(', ') : ''"
          :verb="refreshing ? 'Refresh this spare' : some ? 'Overwrite what is chosen' : 'Overwrite this disk'"
          :busy="busy"
          :refused="refused"
          @confirmed="begin"
        />
      </RestoreOutlook>
    </div>
    <aside v-if="found" class="margin">
      <RunbookList v-if="found.runbook" :runbook="found.runbook" />
      <p v-else class="small soft">The runbook is written when this can be done.</p>
      <p v-if="found.runbook" class="small screen">
        <button type="button" class="figure" @click="print">print this page</button>&ensp;<button
          v-if="from === 'image' && mayAct"
          type="button"
          class="figure"
          @click="exportBook()"
        >
          lay it beside the image
        </button>
      </p>
      <p v-if="said || notExported" role="status" class="small">{{ said || notExported }}</p>
    </aside>
  </div>
</template>

<style scoped>
.columns { display: flex; gap: 26px; align-items: flex-start; }
.work { flex: 1; min-width: 0; }
.margin { flex: 0 0 270px; border-left: 1px solid var(--rule); padding-left: 20px; }
.choose { display: flex; flex-direction: column; gap: 10px; }
.asked { display: flex; gap: 16px; align-items: end; flex-wrap: wrap; }
input { accent-color: var(--grain); }
@media print {
  .screen { display: none; }
  .columns { display: block; }
  .margin { border: 0; padding: 0; }
}
</style>
