<script setup lang="ts">
import Button from 'primevue/button'
import { computed, defineAsyncComponent, ref } from 'vue'
import { useRouter } from 'vue-router'
import type { DiskDetail, Partition } from '../api/types'
import { useMargin } from '../frame/useMargin'
import { useUnits } from '../measure/useUnits'
import { formatMoment } from '../measure/times'
import { useWidth } from '../measure/useWidth'
import DiskStrip from './DiskStrip.vue'

const HistoryPlot = defineAsyncComponent(() => import('../measure/HistoryPlot.vue'))
const props = defineProps<{ disk: DiskDetail; mayAct: boolean; retired: boolean }>()
const emit = defineEmits<{ remove: [] }>()
const router = useRouter()
const { size, between } = useUnits()
const margin = useMargin()
const box = ref<HTMLElement | null>(null)
const width = useWidth(box)
const line = computed(() => props.disk.line)
const HOLDS: Record<string, string> = { nothing: 'nothing but zeros at its start', data: 'data' }

interface Row {
  key: string
  startBytes: number
  partition: Partition | null
  sizeBytes: number
  holds: string
}
function gapHolds(gap: { startBytes: number; sizeBytes: number; holds: string }): string {
  if (gap.startBytes === 0) return 'table and boot code'
  const held = HOLDS[gap.holds] ?? `the start of ${gap.holds}`
  return line.value.scheme === 'gpt' && gap.startBytes + gap.sizeBytes === line.value.sizeBytes
    ? `${held}; the second copy of the table at its end`
    : held
}
const rows = computed<Row[]>(() =>
  [
    ...line.value.partitions.map((p) => ({
      key: `p${p.number}`,
      startBytes: p.startBytes,
      partition: p,
      sizeBytes: p.sizeBytes,
      holds: '',
    })),
    ...props.disk.gaps.map((g) => ({
      key: `g${g.startBytes}`,
      startBytes: g.startBytes,
      partition: null,
      sizeBytes: g.sizeBytes,
      holds: gapHolds(g),
    })),
  ].sort((a, b) => a.startBytes - b.startBytes || (a.partition?.container ? -1 : 1)),
)

function why(p: Partition): string {
  if (p.container) return 'holds the logical partitions'
  if (p.readWhole) return `read whole: ${p.reason}`
  const kept = p.fileSystem === 'swap' ? 'only its header means anything' : 'used blocks by its own map'
  return p.leftOut.length ? `${kept}; left out: ${p.leftOut.map((l) => `${l.what}${l.path ? ` ${l.path}` : ''}`).join(', ')}` : kept
}
const leftOut = (p: Partition) => p.leftOut.reduce((sum, l) => sum + l.bytes, 0)
</script>

<template>
  <section>
    <div class="row">
      <h2>{{ line.name }}, {{ size(line.sizeBytes) }}</h2>
      <span class="soft small">
        {{ line.model || 'model not known' }}, serial {{ line.serial || 'none' }}, {{ line.bus || 'bus not known' }},
        {{ line.scheme === 'none' ? 'no table' : line.scheme.toUpperCase() }}, {{ line.sectorBytes }}-byte sectors,
        {{ line.attached ? 'read' : 'reported' }} {{ formatMoment(disk.seenAt) }}
      </span>
      <Button
        v-if="!line.attached && mayAct"
        label="No longer there"
        size="small"
        severity="secondary"
        outlined
        title="Its images stay; it comes back by itself when it is attached or reported"
        @click="emit('remove')"
      />
      <Button
        v-if="line.attached"
        label="Make an image"
        size="small"
        :disabled="!mayAct || retired"
        @click="router.push(`/make-image/${line.id}`)"
      />
    </div>
    <p v-if="disk.learnt" class="small">
      An image would take about
      <button type="button" class="figure" @click="margin.open(disk.learnt.working)">
        <b>{{ size(disk.learnt.likelyBytes) }}</b></button
      >{{ between(disk.learnt.lowBytes, disk.learnt.highBytes) }}<span class="soft"
        >: {{ disk.learnt.basis === 'history' ? 'from its earlier images' : 'assumed, since it is not attached' }}</span
      >.
    </p>
    <p v-if="line.refusal" class="notice">{{ line.refusal }}</p>
    <p v-for="remark in disk.remarks" :key="remark" class="notice">{{ remark }}</p>
    <div ref="box"><DiskStrip v-if="width && line.partitions.length" :disk="line" :width="width" :height="30" labels /></div>
    <div class="columns">
      <table>
        <thead>
          <tr>
            <th>No.</th>
            <th>Partition</th>
            <th>Holds</th>
            <th class="number">Size</th>
            <th class="number">Used</th>
            <th class="number">Read</th>
            <th class="number">Left out</th>
            <th>Why</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.key" :class="{ gap: !row.partition }">
            <template v-if="row.partition">
              <td>{{ row.partition.number || '' }}</td>
              <td>
                {{ row.partition.name || row.partition.type || 'whole disk'
                }}<span v-if="row.partition.name && row.partition.type" class="soft"><br />{{ row.partition.type }}</span>
              </td>
              <td>{{ row.partition.container ? '' : row.partition.fileSystem }}</td>
              <td class="number">{{ size(row.partition.sizeBytes) }}</td>
              <td class="number">{{ row.partition.usedBytes === null ? '' : size(row.partition.usedBytes) }}</td>
              <td class="number">{{ row.partition.container ? '' : size(row.partition.toReadBytes) }}</td>
              <td class="number">{{ leftOut(row.partition) ? size(leftOut(row.partition)) : '' }}</td>
              <td class="soft">{{ why(row.partition) }}</td>
            </template>
            <template v-else>
              <td></td>
              <td class="soft" colspan="2">unpartitioned</td>
              <td class="number soft">{{ size(row.sizeBytes) }}</td>
              <td colspan="3"></td>
              <td class="soft">{{ row.holds }}</td>
            </template>
          </tr>
        </tbody>
      </table>
      <HistoryPlot
        v-if="disk.readings.length > 1"
        title="Used bytes over time"
        :points="disk.readings.map((r) => ({ at: r.at, bytes: r.usedBytes }))"
      />
      <p v-else class="soft small">Used space over time appears here after the second reading.</p>
    </div>
  </section>
</template>

<style scoped>
section { margin-bottom: 22px; border-top: 1px solid var(--ink); padding-top: 10px; }
.row { display: flex; gap: 16px; align-items: baseline; margin-bottom: 8px; }
.row .p-button { margin-left: auto; flex: none; }
h2 { font-size: 18px; margin: 0; flex: none; }
.columns { display: grid; grid-template-columns: 1fr 250px; gap: 26px; margin-top: 8px; }
tr.gap td { padding-top: 2px; padding-bottom: 2px; font-size: 12.5px; }
</style>
