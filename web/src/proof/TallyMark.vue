<script setup lang="ts">
import { computed } from 'vue'

/** Proof as a tally: four strokes, complete, sound, readable, rehearsed; a bar across them, booted. A damaged image has none of them. */
const props = defineProps<{ proof: number; damaged: boolean }>()
const STROKES = ['complete', 'sound', 'readable', 'rehearsed', 'booted']
const words = computed(() => (props.damaged ? 'damaged' : props.proof === 0 ? 'not checked' : STROKES.slice(0, props.proof).join(', ')))
</script>

<template>
  <svg width="30" height="16" viewBox="0 0 30 16" role="img" :aria-label="`Proof: ${words}`">
    <title>{{ words }}</title>
    <line v-if="proof === 5" x1="2" x2="28" y1="11" y2="5" stroke="var(--moss)" stroke-width="2.4" />
    <line
      v-for="i in 4"
      :key="i"
      :x1="i * 6"
      :x2="i * 6"
      y1="2"
      y2="14"
      :stroke="i <= proof ? 'var(--moss)' : 'var(--rule)'"
      :stroke-width="i <= proof ? 2.4 : 1.4"
    />
  </svg>
</template>
