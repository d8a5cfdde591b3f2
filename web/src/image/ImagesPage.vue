<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { answer, client, sentenceOf } from '../api/client'
import type { ImageLine } from '../api/types'
import PageHeading from '../frame/PageHeading.vue'
import { useUnits } from '../frame/useUnits'
import { formatAge, formatMoment } from '../measure/times'
import { useNow } from '../measure/useNow'
import GrainMark from './GrainMark.vue'
import TallyMark from './TallyMark.vue'

const { size } = useUnits()
const now = useNow(30_000)
const router = useRouter()
const filter = ref('')
const images = useQuery({ queryKey: ['images'], queryFn: () => answer(client.GET('/api/v1/images')) })
const shown = computed(() => (images.data.value ?? []).filter((i) => `${i.name} ${i.computer} ${i.disk} ${i.serial} ${i.destination}`.toLowerCase().includes(filter.value.toLowerCase())))
const summary = computed(() => {
  const all = images.data.value
  if (!all) return ''
  const damaged = all.filter((i) => i.damaged).length
  const stored = size(all.reduce((sum, i) => sum + i.storedBytes, 0))
  return all.length ? `${all.length} ${all.length === 1 ? 'image' : 'images'}, ${stored} stored. ${damaged ? `${damaged} damaged.` : 'No check found damage.'}` : 'No image yet.'
})
</script>

<template>
  <PageHeading title="Images">{{ summary }}
    <template #action><RouterLink to="/images/elsewhere" class="small elsewhere">Add one made elsewhere</RouterLink><InputText v-model="filter" data-filter placeholder="Filter ( / )" aria-label="Filter images" /></template>
  </PageHeading>
  <p v-if="images.error.value" class="notice" role="alert">{{ sentenceOf(images.error.value) }}</p>
  <DataTable v-if="shown.length" :value="shown" data-key="id" selection-mode="single" sort-field="madeAt" :sort-order="-1" @row-select="(e) => router.push(`/images/${(e.data as ImageLine).id}`)">
    <Column field="computer" header="Computer" sortable><template #body="{ data }"><GrainMark :state="data.shelf === 'released' ? 'released' : data.damaged ? 'failed' : data.origin === 'paper' ? 'unseen' : 'kept'" /> <b>{{ data.computer }}</b> {{ data.disk }}</template></Column>
    <Column field="madeAt" header="Made" sortable><template #body="{ data }"><span class="nowrap" :title="data.madeAt">{{ formatMoment(data.madeAt) }}</span></template></Column>
    <Column field="storedBytes" header="Stored" sortable body-class="number" header-class="number"><template #body="{ data }">{{ data.storedBytes ? size(data.storedBytes) : 'not told' }}</template></Column>
    <Column field="usedBytes" header="Of read" sortable body-class="number" header-class="number"><template #body="{ data }"><template v-if="data.usedBytes">{{ size(data.usedBytes) }}, × {{ (data.storedBytes / data.usedBytes).toFixed(2) }}</template><span v-else class="soft">{{ data.origin === 'paper' ? 'paper log' : 'made elsewhere' }}</span></template></Column>
    <Column field="destination" header="Lies on" sortable><template #body="{ data }">{{ data.destination }}<span v-if="data.shelf === 'released'" class="grain">, released</span><span v-if="data.encrypted" class="soft">, encrypted</span><span v-if="data.badBytes" class="brick">, {{ size(data.badBytes) }} unreadable</span></template></Column>
    <Column field="proof" header="Proof" sortable><template #body="{ data }"><TallyMark :proof="data.proof" :damaged="data.damaged" /></template></Column>
    <Column field="checkedAt" header="Checked" sortable>
      <template #body="{ data }"><span v-if="data.origin === 'paper'" class="soft">not seen</span><span v-else :class="data.damaged ? 'brick' : ''">{{ data.damaged ? 'damaged, ' : data.stale ? 'stale, ' : '' }}{{ data.checkedAt ? formatAge(data.checkedAt, now) : 'never' }}</span></template>
    </Column>
  </DataTable>
  <p v-if="shown.length" class="soft small key">Proof, stroke by stroke: complete, sound, readable, rehearsed; a bar across them: booted.</p>
  <p v-else-if="!images.isPending.value" class="empty">
    {{ filter ? `No image matches "${filter}".` : 'Images lie here once made, newest first, each with how far it has been proven.' }}
    <template v-if="!filter"><RouterLink to="/computers">Choose a disk and make the first one</RouterLink>, or <RouterLink to="/images/elsewhere">add one made elsewhere</RouterLink>.</template>
  </p>
</template>

<style scoped>
.elsewhere { margin-right: 16px; white-space: nowrap; }
.nowrap { white-space: nowrap; }
.key { margin-top: 14px; }
</style>
