<script setup lang="ts">
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, reactive, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { answer, client, sentenceOf } from '../api/client'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import { useMargin } from '../frame/useMargin'
import { useUnits } from '../frame/useUnits'
import { formatMoment } from '../measure/times'
import { useWidth } from '../measure/useWidth'
import PassphraseField from '../run/PassphraseField.vue'
import { useSession } from '../session/useSession'
import ConfirmOverwrite from './ConfirmOverwrite.vue'
import { sliderBytes, type Place } from './layout'
import LayoutStrip from './LayoutStrip.vue'
import RestorationList from './RestorationList.vue'
import RunbookList from './RunbookList.vue'
import TargetTable from './TargetTable.vue'

const route = useRoute()
const cache = useQueryClient()
const { size } = useUnits()
const { open } = useMargin()
const { mayAct } = useSession()
const body = ref<HTMLElement | null>(null)
const width = useWidth(body)

const from = ref<'image' | 'disk'>(route.query.disk ? 'disk' : 'image')
const computer = ref(String(route.query.computer ?? ''))
const imageId = ref(String(route.query.image ?? ''))
const diskId = ref(String(route.query.disk ?? ''))
const targetId = ref('')
const strategy = ref('keep')
const stay = ref(false)
const sizes = reactive<Record<string, number>>({})
const only = ref<number[]>([])
const zeroUnused = ref(false)
const acceptDamage = ref(false)
const secret = ref('')

const computers = useQuery({ queryKey: ['computers'], queryFn: () => answer(client.GET('/api/v1/computers')) })
const images = useQuery({
  queryKey: ['restorable', computer], placeholderData: keepPreviousData, enabled: () => !!computer.value || !!imageId.value,
  queryFn: () => answer(client.GET('/api/v1/images/page', { params: { query: { text: computer.value, size: 200 } } })),
})
const restorable = computed(() => (images.data.value?.lines ?? []).filter((i) => i.format === 'granary' && i.shelf === 'kept' && (i.computer === computer.value || i.id === imageId.value)))
const image = computed(() => restorable.value.find((i) => i.id === imageId.value))
const disks = computed(() => (computers.data.value?.computers ?? []).filter((c) => c.name === computer.value).flatMap((c) => c.disks))
const targets = useQuery({ queryKey: ['targets'], queryFn: () => answer(client.GET('/api/v1/targets')), refetchInterval: 10_000 })
const target = computed(() => targets.data.value?.find((t) => t.id === targetId.value))
const chosen = computed(() => (from.value === 'image' ? !!imageId.value : !!diskId.value))

watch(image, (now) => now && !computer.value && (computer.value = now.computer), { immediate: true })
watch([computer, from], () => {
  if (image.value?.computer !== computer.value) imageId.value = ''
  if (!disks.value.some((d) => d.id === diskId.value)) diskId.value = ''
})
watch([imageId, diskId, targetId], () => Object.keys(sizes).forEach((n) => delete sizes[n]))

const order = (confirmation: string) => ({
  imageId: from.value === 'image' ? imageId.value : null, diskId: from.value === 'disk' ? diskId.value : null, targetId: targetId.value, computer: computer.value, strategy: strategy.value, stay: stay.value,
  sizes: strategy.value === 'by-hand' ? { ...sizes } : null, only: only.value, othersStay: false, zeroUnused: zeroUnused.value, acceptDamage: acceptDamage.value, skipCheck: false, confirmation,
  passphrase: image.value?.encrypted ? secret.value || null : null,
})
const ready = computed(() => chosen.value && !!targetId.value && (!image.value?.encrypted || !!secret.value))
const layout = useQuery({
  queryKey: computed(() => ['layout', JSON.stringify({ ...order(''), passphrase: !!secret.value })]), enabled: ready, placeholderData: keepPreviousData, retry: false,
  queryFn: () => answer(client.POST('/api/v1/restore/layout', { body: order('') })),
})
const found = computed(() => (ready.value ? layout.data.value : undefined))
const before = computed<Place[]>(() => (found.value?.placed ?? []).map((p) => ({ number: p.number, start: p.fromStart, bytes: p.fromBytes, used: p.usedBytes, name: p.name || p.type, hidden: p.hidden, note: '' })))
const after = computed<Place[]>(() => (found.value?.placed ?? []).map((p) => ({
  number: p.number, start: p.toStart, bytes: p.toBytes, used: p.usedBytes, name: p.name || p.type, hidden: p.hidden, note: [p.moved && 'moved', p.resized && (p.toBytes > p.fromBytes ? 'grown' : 'made smaller')].filter(Boolean).join(', ') })))
const scale = computed(() => Math.max(found.value?.diskBytes ?? 1, found.value?.targetBytes ?? 1))
/** A strip is never too short for its names; when one had to be lengthened, the two are not on one scale and do not say so. */
const SHORTEST = 260
const long = (bytes: number) => Math.max(SHORTEST, (bytes / scale.value) * width.value)
const oneScale = computed(() => (Math.min(found.value?.diskBytes ?? 0, found.value?.targetBytes ?? 0) / scale.value) * width.value >= SHORTEST)
const STRATEGIES = [{ word: 'grow', says: 'the main partition' }, { word: 'share', says: 'all in proportion' }, { word: 'keep', says: 'none' }, { word: 'by-hand', says: 'by hand' }]

/** A handle on the strip: all sizes stay what they are but this one. */
function draw(number: number, bytes: number) {
  if (strategy.value !== 'by-hand') found.value?.placed.forEach((p) => (sizes[String(p.number)] = p.toBytes))
  strategy.value = 'by-hand'
  sizes[String(number)] = bytes
}

function byHand(number: number, event: Event, min: number, max: number) {
  sizes[String(number)] = sliderBytes(Number((event.target as HTMLInputElement).value), min, max)
}

const { act: begin, busy, refused } = useAction(async (typed: string) => {
  await client.POST('/api/v1/restore', { body: order(typed) })
  targetId.value = ''
  secret.value = ''
  await cache.invalidateQueries({ queryKey: ['restorations'] })
  await cache.invalidateQueries({ queryKey: ['targets'] })
})
const said = ref('')
const { act: exportBook, refused: notExported } = useAction(async () => {
  said.value = (await answer(client.POST('/api/v1/restore/runbook', { body: { imageId: imageId.value } }))).sentence
})
const print = () => window.print()
</script>

<template>
  <PageHeading :title="computer ? `${computer} back onto a disk` : 'Restore'">
    <template v-if="from === 'image' && image">As it was on <b>{{ formatMoment(image.madeAt) }}</b>. Everything since is not in this image.</template>
    <template v-else-if="from === 'disk'">A bootable spare: one disk copied onto another, compared, then tried in the computer.</template>
    <template v-else>Choose what comes back, and the disk it goes onto. Nothing is written before you have typed that disk's serial.</template>
    <template #action><RouterLink to="/rollouts">One image onto many computers</RouterLink></template>
  </PageHeading>
  <div class="columns">
    <div ref="body" class="work">
      <RestorationList />
      <section class="choose screen">
        <p>
          <label>Computer <select v-model="computer" class="plain-field" aria-label="Computer to bring back"><option value="" disabled>choose</option><option v-for="c in computers.data.value?.computers" :key="c.id">{{ c.name }}</option></select></label>
          <label><input v-model="from" type="radio" value="image" /> from an image</label>
          <label><input v-model="from" type="radio" value="disk" /> a spare, from its disk as it is now</label>
        </p>
        <p v-if="computer && from === 'image'">
          <label>Image <select v-model="imageId" class="plain-field wide" aria-label="Image to bring back">
            <option value="" disabled>choose; the newest is first</option>
            <option v-for="i in restorable" :key="i.id" :value="i.id">{{ formatMoment(i.madeAt) }}: {{ i.disk }}, on {{ i.destination }}, {{ i.damaged ? 'DAMAGED' : i.proven || 'not proven' }}{{ i.encrypted ? ', encrypted' : '' }}{{ i.partly ? `, ${i.partly}` : '' }}</option>
          </select></label>
          <PassphraseField v-if="image?.encrypted" v-model="secret" />
        </p>
        <p v-if="images.isSuccess.value && computer && from === 'image' && !restorable.length" class="empty">There is no image of {{ computer }} that Granary can restore. What other tools made is restored with them.</p>
        <p v-if="computer && from === 'disk'">
          <label>Disk <select v-model="diskId" class="plain-field wide" aria-label="Disk to copy"><option value="" disabled>choose</option><option v-for="d in disks" :key="d.id" :value="d.id">{{ [d.name, d.model, d.serial].filter(Boolean).join(', ') }}</option></select></label>
        </p>
        <template v-if="chosen">
          <h3>Onto</h3>
          <TargetTable v-model="targetId" :targets="targets.data.value ?? []" :kinds="['spare', 'stick']" name="target" fixed />
        </template>
      </section>
      <p v-if="ready && layout.error.value" class="notice" role="alert">{{ sentenceOf(layout.error.value) }}</p>
      <section v-if="found && target">
        <p class="over"><b>In the {{ from }}</b>: {{ size(found.diskBytes) }}, {{ found.scheme.toUpperCase() }}<span v-if="image" class="soft right">{{ image.destination }}, {{ image.proven || 'not proven' }}</span></p>
        <LayoutStrip :places="before" :disk-bytes="found.diskBytes" :width="long(found.diskBytes)" label="Before" />
        <p class="over"><b>On {{ target.name }}</b>: {{ size(found.targetBytes) }}<template v-if="oneScale">, on one scale</template>
          <span class="right screen">Give the rest to:
            <button v-for="s in STRATEGIES" :key="s.word" type="button" class="figure" :aria-pressed="strategy === s.word" @click="strategy = s.word">{{ s.says }}</button>
          </span>
        </p>
        <LayoutStrip :places="after" :disk-bytes="found.targetBytes" :width="long(found.targetBytes)" label="After"
          :handles="found.placed.map((p) => ({ number: p.number, min: p.minBytes, max: p.maxBytes }))" @size="draw" />
        <table v-if="strategy === 'by-hand'" class="hand">
          <tbody><tr v-for="p in found.placed" :key="p.number">
            <td>{{ p.name || p.type }}</td>
            <td><input type="range" min="0" max="1000" :value="p.maxBytes > p.minBytes ? Math.round(((p.toBytes - p.minBytes) / (p.maxBytes - p.minBytes)) * 1000) : 0" :aria-label="`Size of ${p.name || p.type}`" :disabled="p.maxBytes <= p.minBytes"
              @change="byHand(p.number, $event, p.minBytes, p.maxBytes)" /></td>
            <td class="number">{{ size(p.toBytes) }}</td><td class="soft small">{{ size(p.minBytes) }} to {{ size(p.maxBytes) }}</td>
          </tr></tbody>
        </table>
        <div class="halves">
          <div>
            <h3>What happens</h3>
            <table>
              <tbody>
                <tr v-for="p in found.placed.filter((one) => one.moved || one.resized)" :key="p.number"><td>{{ p.name || p.type }}</td><td>{{ [p.moved && 'moves', p.resized && `${size(p.fromBytes)} becomes ${size(p.toBytes)}`].filter(Boolean).join(', ') }}</td></tr>
                <tr><td>Left unallocated</td><td><button type="button" class="figure" @click="open(found.working)">{{ size(found.unallocatedBytes) }}</button></td></tr>
                <tr v-for="r in found.remarks" :key="r"><td>Mind</td><td>{{ r }}</td></tr>
                <tr v-for="s in found.steps" :key="s.sentence"><td>{{ s.when === 'before' ? 'First' : 'Afterwards' }}</td><td>{{ s.sentence }}<code v-if="s.command">{{ s.command }}</code></td></tr>
              </tbody>
            </table>
            <p class="small screen">
              <label v-if="found.placed.length > 1"><input v-model="stay" type="checkbox" /> what lies behind the main partition stays there</label><br />
              <label><input v-model="zeroUnused" type="checkbox" /> write zeros where nothing is in use</label><br />
              <label v-if="from === 'image'"><input v-model="acceptDamage" type="checkbox" /> go on past damaged parts of the image, leaving zeros</label>
            </p>
          </div>
          <div class="screen">
            <p v-for="r in found.refusals" :key="r" class="notice" role="alert">{{ r }}</p>
            <ConfirmOverwrite v-if="mayAct && !found.refusals.length" :target="target" verb="Overwrite this disk" :busy="busy" :refused="refused" @confirmed="begin" />
          </div>
        </div>
      </section>
    </div>
    <aside v-if="found" class="margin">
      <RunbookList :runbook="found.runbook" />
      <p class="small screen"><button type="button" class="figure" @click="print">print this page</button>&ensp;<button v-if="from === 'image' && mayAct" type="button" class="figure" @click="exportBook()">lay it beside the image</button></p>
      <p v-if="said || notExported" role="status" class="small">{{ said || notExported }}</p>
    </aside>
  </div>
</template>

<style scoped>
.columns { display: flex; gap: 26px; align-items: flex-start; }
.work { flex: 1; min-width: 0; }
.margin { flex: 0 0 270px; border-left: 1px solid var(--rule); padding-left: 20px; }
.choose label { margin-right: 16px; }
input { accent-color: var(--grain); }
.wide { min-width: 420px; max-width: 100%; }
.over { margin: 14px 0 6px; }
.right { float: right; }
.right .figure { margin-left: 10px; }
[aria-pressed='true'] { font-weight: 600; border-bottom: 2px solid var(--grain); }
.halves { display: grid; grid-template-columns: 1fr 300px; gap: 26px; margin-top: 12px; }
h3 { margin: 8px 0 2px; }
code { display: block; background: var(--wash); padding: 3px 6px; margin-top: 2px; overflow-wrap: anywhere; font-size: 12px; user-select: all; }
.hand { max-width: 640px; margin-top: 8px; }
.hand input { width: 260px; accent-color: var(--grain); }
td { vertical-align: top; }
.halves td:last-child::first-letter { text-transform: uppercase; }
.halves td:first-child { min-width: 96px; }
@media print { .screen { display: none; } .columns { display: block; } .margin { border: 0; padding: 0; } }
</style>
