<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { answer, client, sentenceOf } from '../api/client'
import PageHeading from '../frame/PageHeading.vue'
import { useUnits } from '../frame/useUnits'
import GrainMark from '../image/GrainMark.vue'
import { formatAge } from '../measure/times'
import { useNow } from '../measure/useNow'
import { useWidth } from '../measure/useWidth'
import DiskStrip from './DiskStrip.vue'
import { toOneScale } from './strip'

const STRIP_LEAST = 44
const { size } = useUnits()
const now = useNow(30_000)
const filter = ref('')
const column = ref<HTMLElement | null>(null)
const width = useWidth(column)
const computers = useQuery({ queryKey: ['computers'], queryFn: () => answer(client.GET('/api/v1/computers')) })
const office = useQuery({ queryKey: ['office'], queryFn: () => answer(client.GET('/api/v1/office')), staleTime: Infinity })

const shown = computed(() => {
  const text = filter.value.toLowerCase()
  return (computers.data.value ?? []).filter((c) => `${c.name} ${c.role} ${c.owner} ${c.disks.map((d) => `${d.model} ${d.serial}`).join(' ')}`.toLowerCase().includes(text))
})
const scale = computed(() => {
  const disks = (computers.data.value ?? []).flatMap((c) => c.disks)
  const widths = toOneScale(disks.map((d) => d.sizeBytes), Math.max(120, width.value - 410), STRIP_LEAST)
  return new Map(disks.map((d, i) => [d.id, widths[i]!]))
})
const summary = computed(() => {
  const all = computers.data.value
  if (!all) return ''
  const covered = all.filter((c) => c.lastImageAt && c.lastImageSound).length
  const disks = all.flatMap((c) => c.disks)
  return `${covered} of ${all.length} ${all.length === 1 ? 'computer has' : 'computers have'} a sound image. ${disks.length} ${disks.length === 1 ? 'disk holds' : 'disks hold'} ${size(disks.reduce((sum, d) => sum + d.usedBytes, 0))} to read.`
})
</script>

<template>
  <PageHeading title="Computers">{{ summary }}
    <template #action><InputText v-model="filter" data-filter placeholder="Filter ( / )" aria-label="Filter computers" /></template>
  </PageHeading>
  <p v-if="computers.error.value" class="notice" role="alert">{{ sentenceOf(computers.error.value) }}</p>
  <p v-if="computers.isPending.value" class="soft">Reading the disks…</p>
  <div ref="column" class="list">
    <section v-for="computer in shown" :key="computer.id">
      <div class="who">
        <h2>{{ computer.name }}</h2>
        <p class="soft small">{{ [computer.role, computer.owner].filter(Boolean).join(', ') }}</p>
        <p class="small cover">
          <template v-if="computer.lastImageAt">
            <GrainMark :state="computer.lastImageSound ? 'kept' : 'failed'" />
            <span :class="computer.lastImageSound ? 'moss' : 'brick'">{{ computer.lastImageSound ? 'sound image' : 'image damaged' }}, {{ formatAge(computer.lastImageAt, now) }}</span>
          </template>
          <span v-else class="grain">never imaged</span>
        </p>
      </div>
      <div class="disks">
        <RouterLink v-for="disk in computer.disks" :key="disk.id" :to="`/computers/${disk.id}`" class="disk" :aria-label="`Make an image of ${computer.name}, ${disk.name}`">
          <div class="drawn">
            <DiskStrip v-if="!disk.refusal && width" :disk="disk" :width="scale.get(disk.id)?.width ?? 0" :height="26" />
            <span v-else-if="disk.refusal" class="brick small">{{ disk.refusal }}</span>
            <span v-if="scale.get(disk.id)?.enlarged" class="soft small"> drawn larger than scale</span>
          </div>
          <div class="facts small">
            <b>{{ disk.name }}</b>, {{ size(disk.sizeBytes) }}<br />
            <span class="soft">{{ disk.model }} {{ disk.serial }}, {{ disk.scheme === 'none' ? 'no table' : disk.scheme.toUpperCase() }}<br />{{ size(disk.usedBytes) }} to read</span>
          </div>
        </RouterLink>
        <p v-if="!computer.disks.length" class="soft small">No disk was found on it.</p>
      </div>
    </section>
  </div>
  <p v-if="shown.length === 0 && !computers.isPending.value" class="empty">No computer matches "{{ filter }}". Clear the filter to see all.</p>
  <p v-if="office.data.value?.diskFolder" class="soft small hint">Raw disk image files put into {{ office.data.value.diskFolder }} are shown here too.</p>
  <p v-if="shown.length" class="legend soft small">
    <svg width="18" height="12"><rect width="18" height="12" fill="var(--used)" /></svg> read
    <svg width="18" height="12"><rect width="18" height="12" fill="url(#ruled)" stroke="var(--rule)" /></svg> free, left out
    <svg width="18" height="12"><rect width="18" height="12" fill="url(#hatched)" stroke="var(--rule)" /></svg> hidden from the user, read
    <span class="key">Press Enter on a disk to make an image of it.</span>
  </p>
</template>

<style scoped>
section { display: grid; grid-template-columns: 170px 1fr; gap: 20px; padding: 14px 0; border-top: 1px solid var(--rule); }
h2 { font-size: 19px; margin: 0; }
.cover { display: flex; gap: 6px; align-items: center; margin-top: 4px; }
.disks { display: flex; flex-direction: column; gap: 8px; min-width: 0; }
.disk { display: flex; gap: 20px; justify-content: space-between; text-decoration: none; color: inherit; padding: 4px; margin: -4px; border-radius: 3px; }
.disk:hover { background: var(--wash); }
.facts { width: 190px; flex: none; line-height: 1.35; }
.drawn { min-width: 0; }
.legend { display: flex; gap: 6px; align-items: center; border-top: 1px solid var(--rule); padding-top: 12px; }
.legend svg:not(:first-child) { margin-left: 14px; }
.key { margin-left: auto; }
.hint { margin: 12px 0; }
</style>
