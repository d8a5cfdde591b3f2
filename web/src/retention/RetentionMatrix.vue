<script setup lang="ts">
import { computed } from 'vue'
import type { DiskKept } from '../api/types'
import GrainMark from '../proof/GrainMark.vue'
import { formatMoment } from '../measure/times'
import { monthMarks, placeOf } from './matrix'

/** Disks by dates: every image a grain at its day, kept or to go, with its rule. */
const props = defineProps<{ disks: DiskKept[]; now: number }>()
const emit = defineEmits<{ show: [diskId: string] }>()
const from = computed(() => Math.min(...props.disks.flatMap((d) => d.images.map((i) => Date.parse(i.madeAt)))))
const marks = computed(() => monthMarks(from.value, props.now))
</script>

<template>
  <div class="matrix" role="table" aria-label="Images by disk and date">
    <div class="row head" role="row">
      <span class="name"></span>
      <div class="line">
        <span v-for="m in marks" :key="m.at" class="mark soft" :style="{ left: `${placeOf(m.at, from, now)}%` }">{{ m.label }}</span>
      </div>
    </div>
    <div v-for="d in disks" :key="d.diskId" class="row" role="row">
      <button type="button" class="name figure" role="rowheader" @click="emit('show', d.diskId)">
        <b>{{ d.computer }}</b> {{ d.disk }}
      </button>
      <div class="line">
        <i v-for="m in marks" :key="m.at" class="tick" :style="{ left: `${placeOf(m.at, from, now)}%` }"></i>
        <RouterLink
          v-for="i in d.images"
          :key="i.id"
          :to="`/images/${i.copies[0]?.id ?? i.id}`"
          class="grain-at"
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
.line { position: relative; height: 100%; margin: 0 12px 0 6px; }
.mark { position: absolute; }
.tick { position: absolute; top: 0; bottom: 0; border-left: 1px dotted var(--rule); }
.grain-at { position: absolute; top: 4px; margin-left: -7px; line-height: 1; }
</style>
