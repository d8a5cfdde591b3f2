<script setup lang="ts">
import { computed } from 'vue'
import type { Volume } from '../api/types'
import { useUnits } from '../measure/useUnits'
import { shareWidth } from '../strip/strip'
import { READ } from './place'

/** The partitions of an image; those whose files are read can be opened. */
const props = defineProps<{ volumes: Volume[]; width: number; chosen: number }>()
const emit = defineEmits<{ choose: [partition: number] }>()
const { size } = useUnits()
const HEIGHT = 26
const NARROWEST = 92
const pieces = computed(() => {
  const widths = shareWidth(
    props.volumes.map((each) => each.sizeBytes),
    props.width,
    NARROWEST,
  )
  let x = 0
  return props.volumes.map((volume, i) => {
    const piece = { volume, x, width: widths[i] ?? 0, read: READ.includes(volume.fileSystem) }
    x += piece.width
    return piece
  })
})
</script>

<template>
  <div class="strip" :style="{ width: `${width}px` }">
    <svg :width="width" :height="HEIGHT + 5" aria-hidden="true">
      <g v-for="p in pieces" :key="p.volume.number">
        <rect
          :x="p.x"
          y="0.5"
          :width="p.width"
          :height="HEIGHT - 1"
          :fill="p.read ? 'var(--used)' : 'url(#hatched)'"
          :opacity="p.read && p.volume.number !== chosen ? 0.55 : 1"
        />
        <rect v-if="p.volume.number === chosen" :x="p.x" :y="HEIGHT + 1" :width="p.width" height="3" fill="var(--grain)" />
        <line :x1="p.x" :x2="p.x" y1="0" :y2="HEIGHT" stroke="var(--ink)" />
      </g>
      <rect x="0.5" y="0.5" :width="Math.max(0, width - 1)" :height="HEIGHT - 1" fill="none" stroke="var(--ink)" />
    </svg>
    <div class="labels">
      <span v-for="p in pieces" :key="p.volume.number" :style="{ left: `${p.x}px`, width: `${p.width - 6}px` }">
        <button
          v-if="p.read"
          type="button"
          class="figure"
          :class="{ now: p.volume.number === chosen }"
          :aria-pressed="p.volume.number === chosen"
          @click="emit('choose', p.volume.number)"
        >
          {{ p.volume.name || `partition ${p.volume.number}` }}</button
        ><b v-else class="soft" title="its files cannot be shown">{{ p.volume.name || `partition ${p.volume.number}` }}</b
        ><br />{{ p.volume.fileSystem }}, {{ size(p.volume.sizeBytes) }}
      </span>
    </div>
  </div>
</template>

<style scoped>
.strip { position: relative; margin-bottom: 6px; }
svg { display: block; }
.labels { position: relative; height: 40px; font-size: 13px; line-height: 1.35; color: var(--ink-soft); }
.labels span { position: absolute; top: 3px; overflow: hidden; white-space: nowrap; text-overflow: ellipsis; }
.labels b { font-weight: 400; }
.now { font-weight: 600; color: var(--ink); }
</style>
