<script setup lang="ts">
import { computed } from 'vue'
import type { Disk } from '../api/types'
import { useUnits } from '../measure/useUnits'
import { stripSegments } from '../strip/strip'

/** With `without`, each partition can be switched off: those whose numbers are in it are drawn as left out. */
const props = withDefaults(defineProps<{ disk: Disk; width: number; height?: number; labels?: boolean; switchable?: boolean }>(), {
  height: 40,
  labels: false,
  switchable: false,
})
const without = defineModel<number[]>('without', { default: () => [] })

function toggle(number: number) {
  without.value = without.value.includes(number)
    ? without.value.filter((n) => n !== number)
    : [...without.value, number].sort((a, b) => a - b)
}
const { size } = useUnits()
/** Wide enough for a name below it. */
const LABELLED = 74
const segments = computed(() => stripSegments(props.disk, props.width, props.labels ? LABELLED : undefined))

const summary = computed(() =>
  props.disk.partitions
    .filter((p) => !p.container)
    .map((p) => `${p.name || p.type}: ${size(p.sizeBytes)}, ${p.fileSystem}, ${p.readWhole ? 'read whole' : `${size(p.toReadBytes)} read`}`)
    .join('; '),
)
</script>

<template>
  <div class="strip" :style="{ width: `${width}px` }">
    <svg :width="width" :height="height" role="img" :aria-label="`Disk ${disk.name}, ${size(disk.sizeBytes)}. ${summary}`">
      <g v-for="(s, i) in segments" :key="i">
        <rect :x="s.x" y="0.5" :width="s.width" :height="height - 1" :fill="s.kind === 'gap' ? 'none' : 'url(#ruled)'" />
        <rect
          v-if="s.partition"
          :x="s.x"
          y="0.5"
          :width="s.used"
          :height="height - 1"
          :fill="without.includes(s.partition.number) ? 'url(#dotted)' : s.partition.hidden ? 'url(#hatched)' : 'var(--used)'"
        >
          <title>
            {{ s.partition.name || s.partition.type }}: {{ size(s.partition.toReadBytes) }} of {{ size(s.partition.sizeBytes) }} is read{{
              s.partition.reason ? `; ${s.partition.reason}` : ''
            }}
          </title>
        </rect>
        <rect v-if="s.leftOut > 0.5 && s.partition" :x="s.x + s.used" y="0.5" :width="s.leftOut" :height="height - 1" fill="url(#dotted)">
          <title>{{ s.partition.leftOut.map((l) => `${l.what} ${l.path}`.trim()).join(', ') }}: in use, and left out</title>
        </rect>
        <line v-if="i > 0" :x1="s.x" :x2="s.x" y1="0" :y2="height" stroke="var(--ink)" stroke-width="1" />
      </g>
      <rect x="0.5" y="0.5" :width="Math.max(0, width - 1)" :height="height - 1" fill="none" stroke="var(--ink)" />
    </svg>
    <div v-if="labels" class="labels">
      <span v-for="(s, i) in segments.filter((one) => one.partition)" :key="i" :style="{ left: `${s.x}px`, width: `${s.width}px` }">
        <label v-if="switchable && s.partition" :class="{ soft: without.includes(s.partition.number) }">
          <input type="checkbox" :checked="!without.includes(s.partition.number)" @change="toggle(s.partition.number)" /><b>{{
            s.partition.name || s.partition.type
          }}</b>
        </label>
        <b v-else>{{ s.partition?.name || s.partition?.type }}</b><br />{{ size(s.partition?.sizeBytes ?? 0) }}
      </span>
    </div>
  </div>
</template>

<style scoped>
.strip { position: relative; }
svg { display: block; }
.labels { position: relative; height: 38px; font-size: 13px; line-height: 1.3; }
.labels span { position: absolute; top: 3px; overflow: hidden; white-space: nowrap; text-overflow: ellipsis; color: var(--ink-soft); }
.labels b { color: var(--ink); font-weight: 600; }
.labels input { accent-color: var(--grain); margin: 0 4px 0 0; vertical-align: -1px; }
</style>
