<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import type { JournalDay } from '../api/types'
import { formatDay } from '../measure/times'
import { usePageKeys } from '../keys/pageKeys'

/** The last weeks, a column for each day: how much was written, and what of it failed. A day is chosen by it; arrows walk. */
const props = defineProps<{ days: readonly JournalDay[]; from: string; to: string }>()
const emit = defineEmits<{ choose: [day: string] }>()
const HEIGHT = 34
const strip = ref<HTMLElement | null>(null)
const most = computed(() => Math.max(1, ...props.days.map((d) => d.lines)))
/** A day with one line among days with hundreds is seen all the same. */
const tall = (lines: number) => (lines ? Math.max(3, Math.round((Math.sqrt(lines) / Math.sqrt(most.value)) * HEIGHT)) : 0)
const isChosen = (day: string) => props.from !== '' && props.from <= day && day <= (props.to || day)
const at = ref(-1)
const stop = computed(() => (at.value >= 0 ? at.value : props.days.length - 1))
const words = (d: JournalDay) =>
  `${formatDay(d.day)}: ${d.lines} ${d.lines === 1 ? 'line' : 'lines'}${d.failed ? `, ${d.failed} failed` : ''}`

async function walk(step: number) {
  at.value = Math.min(props.days.length - 1, Math.max(0, stop.value + step))
  await nextTick()
  strip.value?.querySelectorAll('button')[at.value]?.focus()
}
usePageKeys(['← →', 'walk the days'], ['Home End', 'the first day, the last'], ['Enter', 'only that day; once more: all'])
</script>

<template>
  <div
    ref="strip"
    class="strip"
    role="group"
    aria-label="Days"
    @keydown.left.prevent="walk(-1)"
    @keydown.right.prevent="walk(1)"
    @keydown.home.prevent="walk(-days.length)"
    @keydown.end.prevent="walk(days.length)"
  >
    <button
      v-for="(d, i) in days"
      :key="d.day"
      type="button"
      :tabindex="i === stop ? 0 : -1"
      :aria-pressed="isChosen(d.day)"
      :aria-label="words(d)"
      :title="words(d)"
      :class="{ monday: new Date(`${d.day}T12:00:00Z`).getUTCDay() === 1 }"
      @click="((at = i), emit('choose', d.day))"
    >
      <span class="bar" :style="{ height: `${tall(d.lines)}px` }"
        ><span v-if="d.failed" class="failed" :style="{ height: `${Math.max(3, (d.failed / d.lines) * tall(d.lines))}px` }"></span
      ></span>
    </button>
  </div>
  <p class="ends soft small">
    <span>{{ days[0] ? formatDay(days[0].day) : '' }}</span
    ><span>{{ days.at(-1) ? formatDay(days.at(-1)!.day) : '' }}</span>
  </p>
</template>

<style scoped>
.strip { display: flex; border-bottom: 1px solid var(--ink); height: 40px; align-items: stretch; }
button {
  flex: 1;
  display: flex;
  align-items: flex-end;
  justify-content: center;
  border: 0;
  border-left: 1px solid transparent;
  padding: 0 2px;
  background: none;
  cursor: pointer;
}
button.monday { border-left-color: var(--rule); }
button:hover, button[aria-pressed='true'] { background: var(--wash); }
.bar { width: 100%; background: var(--stored); display: flex; align-items: flex-end; }
button[aria-pressed='true'] .bar { background: var(--grain); }
.failed { width: 100%; background: var(--brick); }
.ends { display: flex; justify-content: space-between; margin: 2px 0 14px; }
</style>
