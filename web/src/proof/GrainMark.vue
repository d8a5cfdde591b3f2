<script setup lang="ts">
/** An image as a grain: filled = kept, outline = released, struck through = failed, dotted = only written down. */
defineProps<{ state: 'kept' | 'released' | 'failed' | 'unseen' }>()
const WORDS = { kept: 'kept', released: 'released', failed: 'failed', unseen: 'not seen' }
</script>

<template>
  <svg
    width="15"
    height="12"
    viewBox="0 0 15 12"
    role="img"
    :aria-label="WORDS[state]"
    :style="{ color: state === 'failed' ? 'var(--brick)' : 'var(--used)' }"
  >
    <g transform="rotate(-28 7.5 6)">
      <ellipse
        cx="7.5"
        cy="6"
        rx="5.8"
        ry="3.6"
        :fill="state === 'kept' ? 'currentColor' : 'none'"
        stroke="currentColor"
        :stroke-dasharray="state === 'unseen' ? '1.5 1.5' : undefined"
      />
      <path
        v-if="state !== 'unseen'"
        d="M3 6.3Q7.5 4.6 12 6.3"
        :stroke="state === 'kept' ? 'var(--paper)' : 'currentColor'"
        fill="none"
        stroke-width="0.9"
      />
    </g>
    <path v-if="state === 'failed'" d="M1 11L14 1" stroke="currentColor" stroke-width="1.4" />
  </svg>
</template>
