<script setup lang="ts">
import { computed } from 'vue'
import type { ImageLine, LayoutDetail, TargetLine } from '../api/types'
import { useMargin } from '../frame/useMargin'
import { useUnits } from '../measure/useUnits'
import { type NewPartition, type Place } from './layout'
import LayoutByHand from './LayoutByHand.vue'
import LayoutStrip from './LayoutStrip.vue'

/** What comes back as it lies now and as it will lie, what happens on the way, and how the rest of the target is used. */
const props = defineProps<{
  found: LayoutDetail
  /** All that the image or the disk holds. */
  parts: LayoutDetail['placed']
  target: TargetLine
  from: 'image' | 'disk' | 'served'
  image?: ImageLine
  width: number
}>()
const strategy = defineModel<string>('strategy', { required: true })
const sizes = defineModel<Record<string, number>>('sizes', { required: true })
const left = defineModel<number[]>('left', { required: true })
const added = defineModel<NewPartition[]>('added', { required: true })
const stay = defineModel<boolean>('stay', { required: true })
const zeroUnused = defineModel<boolean>('zeroUnused', { required: true })
const acceptDamage = defineModel<boolean>('acceptDamage', { required: true })
const allSectors = defineModel<boolean>('allSectors', { required: true })
const shrink = defineModel<boolean>('shrink', { required: true })
const { size } = useUnits()
const { open } = useMargin()

const before = computed<Place[]>(() =>
  (left.value.length ? props.parts : props.found.placed).map((p) => ({
    number: p.number,
    start: p.fromStart,
    bytes: p.fromBytes,
    used: p.usedBytes,
    name: p.name || p.type,
    hidden: p.hidden,
    note: '',
  })),
)
const after = computed<Place[]>(() => [
  ...props.found.placed.map((p) => ({
    number: p.number,
    start: p.toStart,
    bytes: p.toBytes,
    used: p.usedBytes,
    name: p.name || p.type,
    hidden: p.hidden,
    note: [p.moved && 'moved', p.resized && (p.toBytes > p.fromBytes ? 'grown' : 'made smaller')].filter(Boolean).join(', '),
  })),
  ...props.found.added.map((p) => ({
    number: p.number,
    start: p.startBytes,
    bytes: p.sizeBytes,
    used: 0,
    name: p.name,
    hidden: false,
    note: `new, ${p.fileSystem}`,
  })),
  ...props.found.stays.map((p) => ({
    number: p.number,
    start: p.startBytes,
    bytes: p.sizeBytes,
    used: 0,
    name: p.name || p.type,
    hidden: p.hidden,
    note: 'stays',
  })),
])
/** Partitions that have no room are not drawn as if they had; by hand, they are what is to be changed. */
const drawn = computed(() => props.found.fits || props.found.shrinkable || strategy.value === 'by-hand')
const whole = computed(() => !props.found.stays.length)
const scale = computed(() => Math.max(props.found.diskBytes, props.found.targetBytes))
/** A strip is never too short for its names; when one had to be lengthened, the two are not on one scale and do not say so. */
const SHORTEST = 260
const long = (bytes: number) => Math.max(SHORTEST, (bytes / scale.value) * props.width)
const oneScale = computed(() => (Math.min(props.found.diskBytes, props.found.targetBytes) / scale.value) * props.width >= SHORTEST)
const STRATEGIES = [
  { word: 'grow', says: 'the main partition' },
  { word: 'share', says: 'all in proportion' },
  { word: 'keep', says: 'none' },
  { word: 'by-hand', says: 'by hand' },
]

/** A handle on the strip: all sizes stay what they are but this one. */
function draw(number: number, bytes: number) {
  if (strategy.value !== 'by-hand') sizes.value = Object.fromEntries(props.found.placed.map((p) => [String(p.number), p.toBytes]))
  strategy.value = 'by-hand'
  sizes.value = { ...sizes.value, [String(number)]: bytes }
}
</script>

<template>
  <section>
    <p class="over">
      <b>{{ from === 'served' ? 'In the virtual computer' : `In the ${from}` }}</b
      >: {{ size(found.diskBytes) }}, {{ found.scheme.toUpperCase()
      }}<span v-if="image" class="soft right">{{ image.destination }}, {{ image.proven || 'not proven' }}</span>
    </p>
    <LayoutStrip :places="before" :disk-bytes="found.diskBytes" :width="long(found.diskBytes)" label="Before" />
    <p class="over">
      <b>On {{ target.name }}</b
      >: {{ size(found.targetBytes) }}<template v-if="oneScale && drawn">, on one scale</template>
      <span v-if="whole" class="right screen"
        >Give the rest to:
        <button
          v-for="s in STRATEGIES"
          :key="s.word"
          type="button"
          class="figure"
          :aria-pressed="strategy === s.word"
          @click="strategy = s.word"
        >
          {{ s.says }}
        </button>
      </span>
    </p>
    <LayoutStrip
      v-if="drawn"
      :places="after"
      :disk-bytes="found.targetBytes"
      :width="long(found.targetBytes)"
      label="After"
      :handles="whole ? found.placed.map((p) => ({ number: p.number, min: p.minBytes, max: p.maxBytes })) : []"
      @size="draw"
    />
    <LayoutByHand
      v-if="whole && strategy === 'by-hand'"
      v-model:sizes="sizes"
      v-model:left="left"
      v-model:added="added"
      :found="found"
      :parts="parts"
    />
    <div class="halves">
      <div>
        <h2 v-if="drawn" class="section">What happens</h2>
        <table v-if="drawn">
          <tbody>
            <tr v-for="p in found.placed.filter((one) => one.moved || one.resized)" :key="p.number">
              <td>{{ p.name || p.type }}</td>
              <td>
                {{ [p.moved && 'moves', p.resized && `${size(p.fromBytes)} becomes ${size(p.toBytes)}`].filter(Boolean).join(', ') }}
              </td>
            </tr>
            <tr v-for="p in found.added" :key="`new ${p.number}`">
              <td>{{ p.name }}</td>
              <td>is made new, empty, {{ size(p.sizeBytes) }}, {{ p.fileSystem }}</td>
            </tr>
            <tr v-if="left.length">
              <td>Left out</td>
              <td>{{ parts.filter((p) => left.includes(p.number)).map((p) => p.name || p.type).join(', ') }}: not on the target</td>
            </tr>
            <tr v-if="found.scratch">
              <td>On the way</td>
              <td>
                a scratch file of at most {{ size(found.scratch.bytes) }} on {{ found.scratch.where }}, which has
                {{ size(found.scratch.freeBytes) }} free; it is removed afterwards
              </td>
            </tr>
            <tr v-if="whole">
              <td>Left unallocated</td>
              <td>
                <button type="button" class="figure" @click="open(found.working)">{{ size(found.unallocatedBytes) }}</button>
              </td>
            </tr>
            <tr v-for="r in found.remarks" :key="r">
              <td>Mind</td>
              <td>{{ r }}</td>
            </tr>
            <tr v-for="s in found.steps" :key="s.sentence">
              <td>{{ s.when === 'before' ? 'First' : 'Afterwards' }}</td>
              <td>
                {{ s.sentence }}<code v-if="s.command">{{ s.command }}</code>
              </td>
            </tr>
          </tbody>
        </table>
        <p class="small screen">
          <label v-if="found.placed.length > 1"
            ><input v-model="stay" type="checkbox" /> what lies behind the main partition stays there</label
          ><br />
          <template v-if="found.shrinkable || shrink"
            ><label><input v-model="shrink" type="checkbox" /> make file systems smaller where the target needs it</label><br
          /></template>
          <label><input v-model="zeroUnused" type="checkbox" /> write zeros where nothing is in use</label><br />
          <label v-if="from === 'disk'"
            ><input v-model="allSectors" type="checkbox" /> every sector, also what is not in use: slower, keeps deleted files</label
          >
          <label v-if="from === 'image'"
            ><input v-model="acceptDamage" type="checkbox" /> go on past damaged parts of the image, leaving zeros</label
          >
        </p>
      </div>
      <div><slot /></div>
    </div>
  </section>
</template>

<style scoped>
.over { margin: 14px 0 6px; }
.right { float: right; }
.right .figure { margin-left: 10px; }
[aria-pressed='true'] { font-weight: 600; border-bottom: 2px solid var(--grain); }
.halves { display: grid; grid-template-columns: 1fr 300px; gap: 26px; margin-top: 12px; }
code {
  display: block;
  background: var(--wash);
  padding: 3px 6px;
  margin-top: 2px;
  overflow-wrap: anywhere;
  font-size: 12px;
  user-select: all;
}
.halves td:last-child::first-letter { text-transform: uppercase; }
.halves td:first-child { min-width: 96px; }
h2.section.section { margin: 8px 0 2px; }
td { vertical-align: top; }
input { accent-color: var(--grain); }
@media print {
  .screen { display: none; }
}
</style>
