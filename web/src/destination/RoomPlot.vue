<script setup lang="ts">
import { defineAsyncComponent } from 'vue'
import type { DestinationLine } from '../api/types'

const HistoryPlot = defineAsyncComponent(() => import('../measure/HistoryPlot.vue'))
defineProps<{ readings: DestinationLine['readings']; capacityBytes: number; reserveBytes: number }>()
</script>

<template>
  <HistoryPlot
    title="What it held over time"
    note="Line: full, less the reserve"
    :points="readings.map((r) => ({ at: r.at, bytes: r.storedBytes }))"
    :limit-bytes="capacityBytes - reserveBytes"
  />
</template>
