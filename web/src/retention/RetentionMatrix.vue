<script setup lang="ts">
import { computed, ref } from 'vue'
import type { DiskKept } from '../api/types'
import GrainMark from '../proof/GrainMark.vue'
import { formatMoment } from '../measure/times'
import { usePageKeys } from '../keys/pageKeys'
import { monthMarks, placeOf } from './matrix'

/** Disks by dates: every image a grain at its day, kept or to go, with its rule. */
const props = defineProps<{ disks: DiskKept[]; now: number }>()
const emit = defineEmits<{ show: [diskId: string] }>()
const from = computed(() => Math.min(...props.disks.flatMap((d) => d.images.map((i) => Date.parse(i.madeAt)))))
const marks = computed(() => monthMarks(from.value, props.now))
/** One image is reached by Tab, the others from it: a year of nights is hundreds of stops. */
const at = ref('')
const grid = ref<HTMLElement | null>(null)
const current = computed(() => {
  const all = props.disks.flatMap((d) => d.images.map((i) => i.id))
  return all.includes(at.value) ? at.value : all[0]
})

function walk(event: KeyboardEvent) {
  const rows = [...(grid.value?.querySelectorAll('.row') ?? [])].map((row) => [...row.querySelectorAll<HTMLElement>('.grain-at')])
  const own = rows.findIndex((row) => row.includes(event.target as HTMLElement))
  if (own < 0) return
  // by where they lie: the order of a row is the server's
  const place = (one: HTMLElement) => one.getBoundingClientRect().left
  const row = rows[own]!.sort((a, b) => place(a) - place(b))
  const here = row.indexOf(event.target as HTMLElement)
  const step = { ArrowLeft: -1, ArrowRight: 1, Home: -here, End: row.length - 1 - here }[event.key]
  const down = { ArrowUp: -1, ArrowDown: 1 }[event.key]
  let next = step === undefined ? undefined : row[here + step]
  for (let r = own + (down ?? 0); down && r >= 0 && r < rows.length && !next; r += down)
    next = rows[r]!.sort((a, b) => Math.abs(place(a) - place(row[here]!)) - Math.abs(place(b) - place(row[here]!)))[0]
  if (step === undefined && down === undefined) return
  event.preventDefault()
  next?.focus()
}
usePageKeys(['← → ↑ ↓', 'from image to image'], ['Home End', 'the oldest of its disk, the newest'])
</script>

<template>
  <div ref="grid" class="matrix" role="grid" aria-label="Images by disk and date; arrows walk from one to the next" @keydown="walk">
    <div class="row head" role="row">
      <span class="name" role="columnheader"><span class="visually-hidden">Disk</span></span>
      <div class="line" role="columnheader">
        <span v-for="m in marks" :key="m.at" class="mark soft" :style="{ left: `${placeOf(m.at, from, now)}%` }">{{ m.label }}</span>
      </div>
    </div>
    <div v-for="d in disks" :key="d.diskId" class="row" role="row">
      <span role="rowheader" class="whose"
        ><button type="button" class="name figure" @click="emit('show', d.diskId)">
          <b>{{ d.computer }}</b> {{ d.disk }}
        </button></span
      >
      <div class="line" role="gridcell">
        <i v-for="m in marks" :key="m.at" class="tick" :style="{ left: `${placeOf(m.at, from, now)}%` }"></i>
        <RouterLink
          v-for="i in d.images"
          :key="i.id"
          :to="`/images/${i.copies[0]?.id ?? i.id}`"
          class="grain-at"
          :tabindex="i.id === current ? 0 : -1"
          @focus="at = i.id"
          :style="{ left: `${placeOf(Date.parse(i.madeAt), from, now)}%` }"
          :title="`${formatMoment(i.madeAt)} on ${i.copies.map((c) => c.destination).join(', ')}. ${i.why}`"
          ><GrainMark :state="i.copies.every((c) => c.damaged) ? 'failed' : i.kept ? 'kept' : 'released'"
        /></RouterLink>
      </div>
    </div>
  </div>
</template>

<style scoped>
.matrix { margin: 6px 0 22px; }
.row { display: grid; grid-template-columns: 190px 1fr; align-items: center; border-bottom: 1px solid var(--rule-soft); height: 24px; }
.head { height: 18px; font-size: 12px; }
.name { text-align: left; font-size: 13px; border: 0; overflow: hidden; text-overflow: ellipsis; }
.whose { overflow: hidden; }
.line { position: relative; height: 100%; margin: 0 12px 0 6px; }
.mark { position: absolute; }
.tick { position: absolute; top: 0; bottom: 0; border-left: 1px dotted var(--rule); }
.grain-at { position: absolute; top: 4px; margin-left: -7px; line-height: 1; }
</style>
