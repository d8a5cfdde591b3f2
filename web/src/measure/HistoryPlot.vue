<script setup lang="ts">
import { LineChart } from 'echarts/charts'
import { GridComponent, MarkLineComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { computed, ref } from 'vue'
import VChart from 'vue-echarts'
import { usePageKeys } from '../keys/pageKeys'
import { useTheme } from '../look/useTheme'
import { unitFor } from './sizes'
import { useUnits } from './useUnits'
import { formatMoment } from './times'
import { useNow } from './useNow'
import { useTurn } from './useTurn'

use([LineChart, GridComponent, MarkLineComponent, TooltipComponent, SVGRenderer])
/** Bytes over time. `limitBytes`, where given, is drawn as a line across. */
const props = defineProps<{ title: string; note?: string; points: { at: string; bytes: number }[]; limitBytes?: number }>()
const { size, reading } = useUnits()
const { theme } = useTheme()
const now = useNow(3_600_000)
const turn = useTurn()
const LABEL = 11

const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short' })
const first = computed(() => props.points[0]!)
const last = computed(() => props.points.at(-1)!)
const told = (point: { at: string; bytes: number }) => `${size(point.bytes)} on ${formatMoment(point.at)}`
/** One unit for the whole axis: that of the highest figure on it. */
const unit = computed(() => unitFor(Math.max(props.limitBytes ?? 0, ...props.points.map((p) => p.bytes)), reading.value))
const summary = computed(() => `${props.title}: ${told(first.value)}, ${told(last.value)}.`)
const plot = ref<InstanceType<typeof VChart> | null>(null)
/** Where the keys have gone to; -1 before they went anywhere. */
const at = ref(-1)
const said = computed(() => {
  const point = props.points[at.value]
  return point ? told(point) : ''
})
function go(event: KeyboardEvent) {
  const last = props.points.length - 1
  const from = at.value < 0 ? last + 1 : at.value
  const to = { ArrowLeft: Math.max(0, from - 1), ArrowRight: Math.min(last, from + 1), Home: 0, End: last }[event.key]
  if (to === undefined) return
  event.preventDefault()
  at.value = to
  plot.value?.dispatchAction({ type: 'showTip', seriesIndex: 0, dataIndex: to })
}
function leave() {
  at.value = -1
  plot.value?.dispatchAction({ type: 'hideTip' })
}
usePageKeys(['← →', 'from day to day in a plot, with its figures'])
const colour = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim()
/** A line across for the limit, and one down for today. */
const marks = computed(() => ({
  silent: true,
  symbol: 'none',
  label: { show: false },
  data: [
    ...(props.limitBytes === undefined
      ? []
      : [{ yAxis: props.limitBytes, lineStyle: { color: colour('--brick'), type: 'solid', width: 1 } }]),
    {
      xAxis: now.value,
      lineStyle: { color: colour('--ink-soft'), type: 'dotted', width: 1 },
      label: { show: true, formatter: 'today', position: 'start', fontSize: LABEL, color: colour('--ink'), distance: 4 },
    },
  ],
}))
const option = computed(() => {
  void theme.value // colours are asked again when the paper changes
  const axis = {
    axisLine: { lineStyle: { color: colour('--rule') } },
    axisLabel: {
      color: colour('--ink-soft'),
      fontSize: LABEL,
      hideOverlap: true,
    },
    splitLine: { show: false },
  }
  return {
    animation: false,
    textStyle: { fontFamily: 'inherit' },
    grid: { left: 4, right: 64, top: 8, bottom: 4, containLabel: true },
    tooltip: {
      trigger: 'axis',
      backgroundColor: colour('--sheet'),
      borderColor: colour('--rule'),
      textStyle: { color: colour('--ink'), fontSize: 12 },
      formatter: ([p]: { data: [string, number] }[]) => (p ? `${formatMoment(p.data[0])}<br>${size(p.data[1])}` : ''),
    },
    xAxis: {
      type: 'time',
      ...axis,
      splitNumber: 2,
      axisLabel: {
        ...axis.axisLabel,
        // without a style of their own the first of each month would be bold
        rich: { day: { fontSize: LABEL, color: colour('--ink-soft') } },
        formatter: (at: number) => `{day|${DAY.format(at)}}`,
      },
    },
    yAxis: {
      type: 'value',
      min: 0,
      max: props.limitBytes === undefined ? undefined : (v: { max: number }) => Math.max(v.max, props.limitBytes!),
      splitNumber: 2,
      ...axis,
      axisLabel: { ...axis.axisLabel, formatter: (bytes: number) => String(Number((bytes / unit.value.unitBytes).toPrecision(3))) },
    },
    series: [
      {
        type: 'line',
        step: 'end',
        symbolSize: 4,
        lineStyle: { color: colour('--used'), width: 1.5 },
        itemStyle: { color: colour('--used') },
        areaStyle: { color: colour('--stored'), opacity: 0.35 },
        data: props.points.map((p) => [p.at, p.bytes]),
        markLine: marks.value,
        endLabel: { show: true, formatter: () => size(last.value.bytes), fontSize: LABEL, color: colour('--ink'), fontWeight: 600 },
      },
    ],
  }
})
</script>

<template>
  <figure>
    <figcaption class="small soft">{{ title }}, in {{ unit.unit }}{{ note ? `. ${note}` : '' }}</figcaption>
    <table class="visually-hidden" :aria-label="title">
      <tbody>
        <tr v-for="p in points" :key="p.at">
          <th scope="row">{{ formatMoment(p.at) }}</th>
          <td>{{ size(p.bytes) }}</td>
        </tr>
      </tbody>
    </table>
    <div tabindex="0" role="group" :aria-label="`${summary} Arrow keys tell it day by day.`" class="keys" @keydown="go" @blur="leave">
      <VChart v-if="turn" ref="plot" class="plot" :option="option" autoresize role="img" :aria-label="summary" />
      <div v-else class="plot"></div>
    </div>
    <p class="visually-hidden" aria-live="polite">{{ said }}</p>
  </figure>
</template>

<style scoped>
figure { margin: 0; }
.plot { height: 130px; width: 100%; }
</style>
