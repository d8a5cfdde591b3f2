<script setup lang="ts">
import { ref } from 'vue'
import { useUnits } from '../measure/useUnits'
import { within } from './layout'

/**
 * The end of a partition on a strip, to be drawn with the pointer or moved by the arrow keys (one hundredth of its range; a tenth by Page
 * Up and Page Down), up to its bounds by Home and End. Escape lets go without a change.
 */
const props = defineProps<{ name: string; x: number; height: number; bytes: number; min: number; max: number; bytesPerPixel: number }>()
const emit = defineEmits<{ drawing: [bytes: number | null]; size: [bytes: number] }>()
const { size } = useUnits()
const from = ref<{ x: number; bytes: number } | null>(null)

const at = (event: PointerEvent, start: { x: number; bytes: number }) =>
  within(start.bytes + (event.clientX - start.x) * props.bytesPerPixel, props.min, props.max)

function take(event: PointerEvent) {
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  from.value = { x: event.clientX, bytes: props.bytes }
}

function draw(event: PointerEvent) {
  if (from.value) emit('drawing', at(event, from.value))
}

function letGo(event: PointerEvent) {
  if (!from.value) return
  const bytes = at(event, from.value)
  const changed = bytes !== from.value.bytes
  leave()
  if (changed) emit('size', bytes)
}

function leave() {
  from.value = null
  emit('drawing', null)
}

function key(event: KeyboardEvent) {
  const hundredth = Math.max(1048576, (props.max - props.min) / 100)
  const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: 10, PageDown: -10, Home: -1000, End: 1000 }[event.key]
  if (event.key === 'Escape') return leave()
  if (step === undefined) return
  event.preventDefault()
  emit('size', within(props.bytes + step * hundredth, props.min, props.max))
}
</script>

<template>
  <span
    class="handle"
    role="slider"
    tabindex="0"
    :aria-label="`End of ${name}`"
    :aria-valuemin="min"
    :aria-valuemax="max"
    :aria-valuenow="bytes"
    :aria-valuetext="size(bytes)"
    :title="`${name}: ${size(min)} to ${size(max)}`"
    :style="{ left: `${x - 7}px`, height: `${height}px` }"
    @pointerdown="take"
    @pointermove="draw"
    @pointerup="letGo"
    @pointercancel="leave"
    @keydown="key"
  />
</template>

<style scoped>
.handle { position: absolute; top: 0; width: 14px; cursor: col-resize; touch-action: none; }
.handle::after {
  content: '';
  position: absolute;
  left: 5px;
  top: 9px;
  bottom: 9px;
  width: 4px;
  border: solid var(--ink);
  border-width: 0 1px;
  background: var(--paper);
}
.handle:focus-visible { outline: 2px solid var(--grain); outline-offset: 1px; }
@media print {
  .handle { display: none; }
}
</style>
