<script setup lang="ts">
import { computed, ref } from 'vue'
import { useUnits } from '../measure/useUnits'
import { pieces, resized, type Handle, type Place } from './layout'
import StripHandle from './StripHandle.vue'

/**
 * A disk with its partitions on one scale: solid is used, ruled is free, cross-hatched is hidden from the computer's user, empty is
 * unallocated. With handles, the ends of partitions can be drawn within their bounds; what that gives is shown while they are, and told
 * once they are let go.
 */
const props = withDefaults(defineProps<{ places: Place[]; diskBytes: number; width: number; label: string; handles?: Handle[] }>(), {
  handles: () => [],
})
const emit = defineEmits<{ size: [number: number, bytes: number] }>()
const drawing = ref<{ number: number; bytes: number } | null>(null)
const shown = computed(() => (drawing.value ? resized(props.places, drawing.value.number, drawing.value.bytes) : props.places))
const { size } = useUnits()
const HEIGHT = 38
const drawn = computed(() => pieces(shown.value, props.diskBytes, props.width))
const ends = computed(() =>
  drawn.value.flatMap((p) =>
    props.handles
      .filter((h) => h.number === p.place?.number && h.max > h.min)
      .map((h) => ({ ...h, x: p.x + p.width, bytes: p.place?.bytes ?? 0, name: p.place?.name ?? '' })),
  ),
)
const summary = computed(() =>
  drawn.value
    .map((p) => (p.place ? `${p.place.name} ${size(p.place.bytes)}${p.place.note ? `, ${p.place.note}` : ''}` : 'unallocated'))
    .join('; '),
)
</script>

<template>
  <div class="strip" :style="{ width: `${width}px` }">
    <svg :width="width" :height="HEIGHT" role="img" :aria-label="`${label}: ${summary}`">
      <g v-for="(p, i) in drawn" :key="i">
        <rect v-if="p.place" :x="p.x" y="0.5" :width="p.width" :height="HEIGHT - 1" fill="url(#ruled)" />
        <rect
          v-if="p.place"
          :x="p.x"
          y="0.5"
          :width="p.used"
          :height="HEIGHT - 1"
          :fill="p.place.hidden ? 'url(#hatched)' : 'var(--used)'"
        />
        <line v-if="i > 0" :x1="p.x" :x2="p.x" y1="0" :y2="HEIGHT" stroke="var(--ink)" />
      </g>
      <rect x="0.5" y="0.5" :width="Math.max(0, width - 1)" :height="HEIGHT - 1" fill="none" stroke="var(--ink)" />
    </svg>
    <StripHandle
      v-for="end in ends"
      :key="end.number"
      :name="end.name"
      :x="end.x"
      :height="HEIGHT"
      :bytes="end.bytes"
      :min="end.min"
      :max="end.max"
      :bytes-per-pixel="diskBytes / width"
      @drawing="drawing = $event === null ? null : { number: end.number, bytes: $event }"
      @size="emit('size', end.number, $event)"
    />
    <div class="labels">
      <span
        v-for="(p, i) in drawn"
        :key="i"
        :style="i > 0 && i === drawn.length - 1 ? { right: 0, textAlign: 'right' } : { left: `${p.x}px`, width: `${p.width}px` }"
        :title="p.place ? `${p.place.name}: ${size(p.place.bytes)}` : 'unallocated'"
      >
        <template v-if="p.place"
          ><b>{{ p.place.name }}</b
          ><br />{{ size(p.place.bytes) }}<template v-if="p.place.note">, {{ p.place.note }}</template></template
        >
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
