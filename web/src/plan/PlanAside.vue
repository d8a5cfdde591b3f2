<script setup lang="ts">
import type { Weighed, Working } from '../api/types'
import StageBars from '../capture/StageBars.vue'
import { formatRange } from '../measure/times'

/** A plan read back beside the form, always in sight, with how long an image takes. */
defineProps<{
  sentence: string
  problems: readonly { sentence: string; refused: boolean }[]
  /** Why it cannot be read back; empty when it can, and where a field says it. */
  unreadable: string
  /** Whether a field is marked. */
  marked: boolean
  first?: Weighed
}>()
const emit = defineEmits<{ show: [working: Working] }>()
</script>

<template>
  <aside aria-label="The plan read back">
    <slot />
    <h2 class="section">Read back</h2>
    <p v-if="unreadable" class="brick">{{ unreadable }}</p>
    <p v-else-if="marked" class="brick">Correct what is marked, and it is read back here.</p>
    <p v-else>{{ sentence }}</p>
    <p v-for="p in problems" :key="p.sentence" class="small" :class="{ brick: p.refused }">{{ p.sentence }}</p>
    <template v-if="first">
      <h2 class="section">How long, on {{ first.name }}</h2>
      <p>
        <button type="button" class="figure" @click="emit('show', first.time.working)">
          {{ formatRange(first.time.lowSeconds, first.time.highSeconds) }}
        </button>
        <span class="soft small"> in all, by the clock</span>
      </p>
      <StageBars :time="first.time" />
    </template>
  </aside>
</template>

<style scoped>
aside { position: sticky; top: 0; align-self: start; border-left: 1px solid var(--rule); padding-left: 20px; font-size: 13.5px; }
p { margin-bottom: 4px; }
h2.section.section { margin: 16px 0 4px; }
</style>
