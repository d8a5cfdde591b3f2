<script setup lang="ts">
import { computed } from 'vue'
import type { Weighed } from '../api/types'
import { formatSeconds } from '../measure/times'

const props = defineProps<{ time: Weighed['time'] }>()
const slowest = computed(() => Math.max(...props.time.stages.filter((s) => s.name !== 'read back').map((s) => s.seconds)))
const whole = computed(() => slowest.value + (props.time.stages.find((s) => s.name === 'read back')?.seconds ?? 0))
</script>

<template>
  <div class="stages">
    <template v-for="stage in time.stages" :key="stage.name">
      <span class="soft">{{ stage.name }}</span>
      <span class="track">
        <span
          class="bar"
          :class="{ slowest: stage.name === time.slowest }"
          :style="{
            marginLeft: stage.name === 'read back' ? `${(slowest / whole) * 64}%` : 0,
            width: `${Math.max(0.4, (stage.seconds / whole) * 78)}%`,
          }"
        />
        <span class="soft">{{ formatSeconds(stage.seconds) }}</span>
      </span>
    </template>
  </div>
</template>

<style scoped>
.stages { display: grid; grid-template-columns: 74px 1fr; font-size: 13px; row-gap: 2px; }
.track { display: flex; align-items: center; gap: 6px; white-space: nowrap; }
.bar { height: 11px; background: var(--stored); display: inline-block; }
.bar.slowest { background: var(--used); }
</style>
