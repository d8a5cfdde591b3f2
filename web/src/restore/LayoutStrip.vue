<script setup lang="ts">
import { computed } from 'vue'
import { useUnits } from '../frame/useUnits'
import { pieces, type Place } from './layout'

/** A disk with its partitions on one scale: solid is used, ruled is free, cross-hatched is hidden from the computer's user, empty is unallocated. */
const props = defineProps<{ places: Place[]; diskBytes: number; width: number; label: string }>()
const { size } = useUnits()
const HEIGHT = 38
const drawn = computed(() => pieces(props.places, props.diskBytes, props.width))
const summary = computed(() => drawn.value.map((p) => (p.place ? `${p.place.name} ${size(p.place.bytes)}${p.place.note ? `, ${p.place.note}` : ''}` : 'unallocated')).join('; '))
</script>

<template>
  <div class="strip" :style="{ width: `${width}px` }">
    <svg :width="width" :height="HEIGHT" role="img" :aria-label="`${label}: ${summary}`">
      <g v-for="(p, i) in drawn" :key="i">
        <rect v-if="p.place" :x="p.x" y="0.5" :width="p.width" :height="HEIGHT - 1" fill="url(#ruled)" />
        <rect v-if="p.place" :x="p.x" y="0.5" :width="p.used" :height="HEIGHT - 1" :fill="p.place.hidden ? 'url(#hatched)' : 'var(--used)'" />
        <line v-if="i > 0" :x1="p.x" :x2="p.x" y1="0" :y2="HEIGHT" stroke="var(--ink)" />
      </g>
      <rect x="0.5" y="0.5" :width="Math.max(0, width - 1)" :height="HEIGHT - 1" fill="none" stroke="var(--ink)" />
    </svg>
    <div class="labels">
      <span v-for="(p, i) in drawn" :key="i" :style="i > 0 && i === drawn.length - 1 ? { right: 0, textAlign: 'right' } : { left: `${p.x}px`, width: `${p.width}px` }" :title="p.place ? `${p.place.name}: ${size(p.place.bytes)}` : 'unallocated'">
        <template v-if="p.place"><b>{{ p.place.name }}</b><br />{{ size(p.place.bytes) }}<template v-if="p.place.note">, {{ p.place.note }}</template></template>
        <template v-else-if="p.width > 70">unallocated</template>
      </span>
    </div>
  </div>
</template>

<style scoped>
.strip { position: relative; }
svg { display: block; }
.labels { position: relative; height: 42px; font-size: 13px; line-height: 1.3; }
.labels span { position: absolute; top: 3px; overflow: hidden; white-space: nowrap; text-overflow: ellipsis; color: var(--ink-soft); }
.labels b { color: var(--ink); font-weight: 600; }
</style>
