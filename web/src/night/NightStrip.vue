<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Night } from '../api/types'
import { formatClock } from '../measure/times'
import { useNow } from '../measure/useNow'
import { useWidth } from '../measure/useWidth'
import { hourTicks, stripScale } from './nightStrip'

const props = defineProps<{ night: Night }>()
const chosen = defineModel<string>({ required: true })
const emit = defineEmits<{ show: [planId: string] }>()
const NAMES = 150
const ROW = 31
const DRIVE = 22
const TOP = 26
const LABEL = 52
const box = ref<HTMLElement | null>(null)
const whole = useWidth(box)
const width = computed(() => Math.max(0, whole.value - NAMES))
const now = useNow(30_000)
const scale = computed(() => stripScale(props.night.stripFrom, props.night.stripTo, width.value))
const ticks = computed(() => hourTicks(props.night.stripFrom, props.night.stripTo, width.value, LABEL))
const clock = (iso: string) => formatClock(iso, props.night.zone)

/** Rows and misfits as lines of the strip, what starts first on top. */
const lines = computed(() => [
  ...props.night.rows.map((row) => ({ planId: row.planId, name: row.computer, disk: row.disk, row, misfit: null })),
  ...props.night.misfits.map((misfit) => ({ planId: misfit.planId, name: misfit.computer, disk: misfit.disk, row: null, misfit })),
])
const several = computed(() => new Set(lines.value.map((l) => l.name).filter((name, i, all) => all.indexOf(name) !== i)))
const drives = computed(() => props.night.drives.filter((d) => props.night.rows.some((r) => r.driveId === d.id)))
const drivesTop = computed(() => TOP + lines.value.length * ROW + 22)
const height = computed(() => drivesTop.value + drives.value.length * DRIVE + 6)
const nowAt = computed(() => {
  const iso = new Date(now.value).toISOString()
  return iso >= props.night.stripFrom && iso <= props.night.stripTo ? scale.value.at(iso) : null
})
const here = (since: string | null) => (since ? `, here by its agent since ${clock(since)}` : '')
const words = (line: (typeof lines.value)[number]) =>
  line.row
    ? `${line.name}, ${line.disk}${here(line.row.hereSince)}: ` +
      `from ${clock(line.row.start)} to about ${clock(line.row.end)} on ${line.row.drive}, ` +
      `slack ${line.row.slack}, ${line.row.chance}`
    : `${line.name}, ${line.disk}: does not fit`

function choose(planId: string) {
  chosen.value = planId
  emit('show', planId)
}
</script>

<template>
  <div ref="box" class="strip" :style="{ height: `${height}px` }">
    <svg v-if="width" :width="whole" :height="height" aria-hidden="true">
      <g :transform="`translate(${NAMES} 0)`">
        <g v-for="tick in ticks" :key="tick">
          <line :x1="scale.at(tick)" :x2="scale.at(tick)" :y1="TOP - 6" :y2="height" stroke="var(--rule)" />
          <text v-if="scale.at(tick) < width - 16" :x="scale.at(tick)" y="12" text-anchor="middle" class="tick">{{ clock(tick) }}</text>
        </g>
        <rect
          v-bind="{ x: scale.stretch(night.closes, night.opens).x, width: scale.stretch(night.closes, night.opens).width }"
          :y="TOP - 7"
          height="4"
          fill="var(--grain-fill)"
        >
          <title>the office is closed</title>
        </rect>
        <g v-for="(line, i) in lines" :key="line.planId" :transform="`translate(0 ${TOP + i * ROW})`">
          <rect v-if="chosen === line.planId" :x="-NAMES" y="0.5" :width="whole" :height="ROW - 1" fill="var(--wash)" />
          <line :x1="-NAMES" :x2="width" :y1="ROW" :y2="ROW" stroke="var(--rule-soft)" />
          <template v-if="line.row">
            <line
              :x1="scale.at(line.row.windowFrom)"
              :x2="scale.at(line.row.windowTo)"
              y1="24.5"
              y2="24.5"
              stroke="var(--stored-ink)"
              stroke-width="1"
              stroke-dasharray="1 3"
            />
            <path v-if="line.row.bootAt" :d="`M${scale.at(line.row.bootAt)} 7l9 8l-9 8Z`" fill="var(--ink)" />
            <rect v-bind="scale.stretch(line.row.start, line.row.capturedAt)" y="6.5" height="17" fill="var(--used)" />
            <rect
              v-bind="scale.stretch(line.row.capturedAt, line.row.end)"
              y="6.5"
              height="17"
              fill="url(#stored)"
              stroke="var(--stored-ink)"
              stroke-width="0.6"
            />
            <rect
              v-bind="scale.stretch(line.row.end, line.row.latestEnd)"
              y="6.5"
              height="17"
              fill="none"
              stroke="var(--ink)"
              stroke-dasharray="2 2"
            />
            <text
              :x="scale.at(line.row.latestEnd) > width - 90 ? scale.at(line.row.start) - 8 : scale.at(line.row.latestEnd) + 8"
              :text-anchor="scale.at(line.row.latestEnd) > width - 90 ? 'end' : 'start'"
              y="20"
              class="to"
            >
              to {{ line.row.drive }}{{ line.row.pinned ? ', pinned' : '' }}
            </text>
          </template>
          <template v-else-if="line.misfit?.windowFrom && line.misfit.windowTo">
            <rect
              v-bind="scale.stretch(line.misfit.windowFrom, line.misfit.windowTo)"
              y="9.5"
              height="11"
              fill="url(#overflow)"
              opacity="0.55"
            />
            <text
              :x="scale.at(line.misfit.windowFrom) + 8"
              y="19.5"
              class="to brick"
              paint-order="stroke"
              stroke="var(--paper)"
              stroke-width="5"
            >
              does not fit in its window
            </text>
          </template>
          <text v-else x="8" y="20" class="to brick">does not fit</text>
        </g>
        <text :x="-NAMES" :y="drivesTop - 7" class="tick">the drives meanwhile</text>
        <g v-for="(drive, i) in drives" :key="drive.id" :transform="`translate(0 ${drivesTop + i * DRIVE})`">
          <line x1="0" :x2="width" :y1="DRIVE / 2" :y2="DRIVE / 2" stroke="var(--rule)" />
          <text :x="-NAMES" y="15" class="drive">{{ drive.name }}</text>
          <rect
            v-for="row in night.rows.filter((r) => r.driveId === drive.id)"
            :key="row.planId"
            v-bind="scale.stretch(row.start, row.end)"
            y="6"
            height="9"
            fill="url(#promised)"
            stroke="var(--grain)"
            stroke-width="0.8"
          />
        </g>
        <line v-if="nowAt !== null" :x1="nowAt" :x2="nowAt" y1="0" :y2="height" stroke="var(--brick)" stroke-width="1.2">
          <title>now</title>
        </line>
      </g>
    </svg>
    <button
      v-for="(line, i) in lines"
      :key="line.planId"
      type="button"
      class="line"
      :style="{ top: `${TOP + i * ROW}px`, height: `${ROW}px` }"
      :aria-label="words(line)"
      :aria-pressed="chosen === line.planId"
      @click="choose(line.planId)"
    >
      <b>{{ line.name }}</b><span v-if="line.row?.hereSince" class="here">here</span
      ><span v-if="several.has(line.name)" class="soft">{{ line.disk.replace(/,.*/, '') }}</span>
    </button>
  </div>
  <p class="key soft small">
    <svg width="12" height="14" aria-hidden="true"><path d="M1 1l9 6l-9 6Z" fill="var(--ink)" /></svg> a person boots it
    <svg width="18" height="12" aria-hidden="true"><rect width="18" height="12" fill="var(--used)" /></svg> captured
    <svg width="18" height="12" aria-hidden="true"><rect width="18" height="12" fill="url(#stored)" /></svg> read back
    <svg width="18" height="12" aria-hidden="true">
      <rect x="0.5" y="0.5" width="17" height="11" fill="none" stroke="var(--ink)" stroke-dasharray="2 2" />
    </svg>
    may take as long as this
    <svg width="18" height="12" aria-hidden="true">
      <line x1="0" x2="18" y1="6" y2="6" stroke="var(--stored-ink)" stroke-dasharray="1 3" />
    </svg>
    its window
  </p>
</template>

<style scoped>
.strip { position: relative; }
.tick { font-size: 12.5px; fill: var(--ink-soft); }
.to { font-size: 13px; fill: var(--ink-soft); }
.to.brick { fill: var(--brick); }
.drive { font-size: 13px; fill: var(--ink); }
.line {
  position: absolute;
  left: 0;
  right: 0;
  background: none;
  border: 0;
  font: inherit;
  color: inherit;
  text-align: left;
  cursor: pointer;
  padding: 0;
  white-space: nowrap;
  overflow: hidden;
}
.line b { letter-spacing: 0.01em; }
.line span { font-size: 13px; margin-left: 6px; }
.key { display: flex; gap: 6px; align-items: center; margin: 6px 0 14px; }
.key svg:not(:first-child) { margin-left: 12px; }
.here { color: var(--moss); font-size: 12px; margin-left: 6px; }
</style>
