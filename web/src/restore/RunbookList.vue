<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Runbook } from '../api/types'
import { formatRange } from '../measure/times'

/** What a person does, in order; with Granary, or with standard tools only. */
const props = defineProps<{ runbook: Runbook }>()
const plain = ref(false)
const steps = computed(() => (plain.value ? props.runbook.without : props.runbook.steps))
const minutes = (low: number, high: number) => formatRange(low * 60, high * 60)
const total = computed(() =>
  minutes(
    steps.value.reduce((n, s) => n + s.lowMinutes, 0),
    steps.value.reduce((n, s) => n + s.highMinutes, 0),
  ),
)
</script>

<template>
  <section class="runbook" aria-label="Runbook">
    <h2>Runbook</h2>
    <p class="small soft">{{ runbook.title }}, about {{ total }}</p>
    <p class="small screen">
      <button type="button" class="figure" :aria-pressed="!plain" @click="plain = false">with Granary</button>&ensp;
      <button type="button" class="figure" :aria-pressed="plain" @click="plain = true">with standard tools only</button>
    </p>
    <ol>
      <li v-for="s in steps" :key="s.text">
        {{ s.text }} <span v-if="s.highMinutes" class="soft">{{ minutes(s.lowMinutes, s.highMinutes) }}</span><code v-if="s.command">{{
          s.command
        }}</code>
      </li>
    </ol>
    <h3>Look at, then sign</h3>
    <ul>
      <li v-for="c in runbook.checks" :key="c">{{ c }}</li>
    </ul>
  </section>
</template>

<style scoped>
h2 { font-size: 19px; margin: 0; }
h3 { margin: 12px 0 0; font-size: 14px; }
ol, ul { padding-left: 20px; margin: 6px 0 0; font-size: 13.5px; line-height: 1.4; }
li { margin: 5px 0; }
code {
  display: block;
  background: var(--wash);
  padding: 3px 6px;
  margin-top: 2px;
  overflow-wrap: anywhere;
  font-size: 12px;
  user-select: all;
}
[aria-pressed='true'] { font-weight: 600; border-bottom: 2px solid var(--grain); }
@media print {
  .screen { display: none; }
}
</style>
