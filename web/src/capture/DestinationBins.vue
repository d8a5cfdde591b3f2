<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Weighed, Working } from '../api/types'
import { useUnits } from '../measure/useUnits'
import { useWidth } from '../measure/useWidth'
import { layBins } from './bins'

const HEIGHT = 160
const HEADROOM = 26
const BIN = 46
/**
 * No list while the image is estimated: the place is held, so that nothing below it moves when they come.
 * With `several`, any number of destinations is chosen, those that do not fit now too: a plan names drives that are elsewhere tonight.
 */
const props = defineProps<{ destinations?: Weighed[]; lowBytes: number; highBytes: number; mayAct: boolean; several?: boolean }>()
const chosen = defineModel<string | string[]>({ required: true })
const emit = defineEmits<{ show: [working: Working] }>()
const { size } = useUnits()
const box = ref<HTMLElement | null>(null)
const width = useWidth(box)
const byName = computed(() => [...(props.destinations ?? [])].sort((a, b) => a.name.localeCompare(b.name)))
const bins = computed(() => layBins(byName.value, props.lowBytes, props.highBytes, HEIGHT, HEADROOM))
const step = computed(() => width.value / Math.max(1, byName.value.length))
const foot = HEADROOM + HEIGHT
/** Below this many pixels for a bin its words are set smaller and wrap. */
const NARROW = 76
/** In place of a rank, by the rule that is broken. */
const REFUSED: Record<string, string> = {
  attached: 'not attached',
  encrypted: 'encrypted only',
  'may-use': 'kept for others',
}
const ORDINAL = ['', '1st choice', '2nd choice', '3rd choice']

function verdict(d: Weighed): string {
  if (d.itself) return 'the disk itself'
  if (d.fit) return `${size(d.roomAfterBytes)} left`
  if (d.roomAfterBytes < 0) return `${size(-d.roomAfterBytes)} short`
  return d.refusedBy === 'file-size' ? 'needs parts' : 'not now'
}

function isChosen(d: Weighed): boolean {
  return Array.isArray(chosen.value) ? chosen.value.includes(d.id) : chosen.value === d.id
}

function place(x: number, bin: { rim: number; floor: number }): string {
  const l = x - BIN / 2
  const r = x + BIN / 2
  return `M${l} ${bin.rim - 4}V${bin.floor}L${l + 11} ${bin.floor + 13}H${r - 11}L${r} ${bin.floor}V${bin.rim - 4}`
}
</script>

<template>
  <div ref="box" class="bins" :role="several ? 'group' : 'radiogroup'" :aria-label="several ? 'Destinations' : 'Destination'">
    <p v-if="!destinations" class="soft small">Their room is compared when the image is estimated.</p>
    <p v-else-if="!destinations.length" class="empty">No drive is known yet. <RouterLink to="/prepare-drive">Prepare one</RouterLink>.</p>
    <svg v-else-if="width" :width="width" :height="foot + 16" aria-hidden="true">
      <g v-for="(d, i) in byName" :key="d.id">
        <template v-for="x in [step * i + step / 2]" :key="x">
          <path :d="place(x, bins[i]!)" fill="var(--sheet)" />
          <path
            :d="`M${x - BIN / 2} ${foot}L${x - BIN / 2 + 11} ${foot + 13}H${x + BIN / 2 - 11}L${x + BIN / 2} ${foot}Z`"
            fill="url(#stored)"
          />
          <rect
            :x="x - BIN / 2"
            :width="BIN"
            :y="bins[i]!.stored.top"
            :height="bins[i]!.stored.bottom - bins[i]!.stored.top"
            fill="url(#stored)"
          />
          <rect
            :x="x - BIN / 2"
            :width="BIN"
            :y="bins[i]!.promised.top"
            :height="bins[i]!.promised.bottom - bins[i]!.promised.top"
            fill="url(#promised)"
          />
          <template v-if="!d.itself">
            <rect
              :x="x - BIN / 2"
              :width="BIN"
              :y="bins[i]!.low.top"
              :height="bins[i]!.low.bottom - bins[i]!.low.top"
              fill="var(--grain-fill)"
              :opacity="d.fit ? 1 : 0.45"
            />
            <line :x1="x - BIN / 2" :x2="x + BIN / 2" :y1="bins[i]!.low.bottom" :y2="bins[i]!.low.bottom" stroke="var(--grain)" />
            <rect
              :x="x - BIN / 2"
              :width="BIN"
              :y="bins[i]!.doubt.top"
              :height="bins[i]!.doubt.bottom - bins[i]!.doubt.top"
              fill="none"
              stroke="var(--grain)"
              stroke-dasharray="3 2"
            />
            <rect
              v-if="bins[i]!.over.bottom > bins[i]!.over.top"
              :x="x - BIN / 2 + 6"
              :width="BIN - 12"
              :y="bins[i]!.over.top"
              :height="bins[i]!.over.bottom - bins[i]!.over.top"
              fill="url(#overflow)"
              stroke="var(--brick)"
            />
          </template>
          <path :d="place(x, bins[i]!)" fill="none" stroke="var(--ink)" :stroke-width="isChosen(d) ? 2.6 : 1.3" />
          <path :d="`M${x - BIN / 2 - 4} ${bins[i]!.reserve}h8M${x + BIN / 2 - 4} ${bins[i]!.reserve}h8`" stroke="var(--ink)" />
        </template>
      </g>
    </svg>
    <div class="names" :class="{ narrow: step < NARROW }">
      <label v-for="d in byName" :key="d.id" :class="{ chosen: isChosen(d), unfit: !d.fit }" :style="{ width: `${step}px` }">
        <span class="pick"
          ><input
            v-model="chosen"
            :type="several ? 'checkbox' : 'radio'"
            name="destination"
            :value="d.id"
            :disabled="!mayAct || (several ? d.itself : !d.fit)"
          />
          <b>{{ d.name }}</b></span
        >
        <span class="soft place" :title="d.place">{{ d.place }}</span>
        <button type="button" class="figure" :class="d.fit ? 'moss' : 'brick'" @click.prevent="emit('show', d.working)">
          {{ verdict(d) }}
        </button>
        <b v-if="d.rollBack">roll-back only</b>
        <b v-else-if="d.fit">{{ ORDINAL[d.rank] ?? `${d.rank}th choice` }}</b>
        <span v-else class="brick">{{ REFUSED[d.refusedBy] ?? 'does not fit' }}</span>
      </label>
    </div>
  </div>
</template>

<style scoped>
.bins { min-height: 283px; } /* the drawing, and four lines below it */
.names { display: flex; font-size: 13px; line-height: 1.42; margin-top: 4px; }
label {
  display: flex;
  flex-direction: column;
  align-items: center;
  text-align: center;
  padding: 2px;
  cursor: pointer;
  border-radius: 3px;
  min-width: 0;
}
.narrow { font-size: 12px; }
.narrow button.figure { white-space: normal; }
.narrow .pick { gap: 2px; letter-spacing: -0.02em; }
label.chosen { background: var(--wash); }
label.unfit { cursor: default; }
.pick { display: flex; gap: 4px; align-items: center; }
.place { max-width: 100%; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
input { accent-color: var(--grain); margin: 0; }
</style>
