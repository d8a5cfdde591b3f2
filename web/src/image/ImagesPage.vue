<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import Column from 'primevue/column'
import DataTable from 'primevue/datatable'
import InputText from 'primevue/inputtext'
import { computed, reactive, ref, watch } from 'vue'
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
const PAGE = 50
const asked = reactive({ text: '', sort: 'madeAt', descending: true, page: 0, size: PAGE })
let typing: ReturnType<typeof setTimeout> | undefined
watch(filter, (text) => {
  clearTimeout(typing)
  typing = setTimeout(() => Object.assign(asked, { text, page: 0 }), 150)
})
const images = useQuery({ queryKey: ['images', asked], queryFn: () => answer(client.GET('/api/v1/images/page', { params: { query: asked } })), placeholderData: keepPreviousData })
const shown = computed(() => images.data.value?.lines ?? [])
const summary = computed(() => {
  const all = images.data.value
  if (!all) return ''
  return all.total ? `${all.total} ${all.total === 1 ? 'image' : 'images'}${asked.text ? ' of those' : ''}, ${size(all.storedBytes)} stored. ${all.damaged ? `${all.damaged} damaged.` : 'No check found damage.'}` : asked.text ? 'None of those.' : 'No image yet.'
})
</script>

<template>
  <PageHeading title="Images">{{ summary }}
    <template #action><RouterLink to="/images/elsewhere" class="small elsewhere">Add one made elsewhere</RouterLink><InputText v-model="filter" data-filter placeholder="Filter ( / )" aria-label="Filter images" /></template>
  </PageHeading>
  <p v-if="images.error.value" class="notice" role="alert">{{ sentenceOf(images.error.value) }}</p>
  <DataTable v-if="shown.length" :value="shown" data-key="id" selection-mode="single" lazy :sort-field="asked.sort" :sort-order="asked.descending ? -1 : 1" :paginator="(images.data.value?.total ?? 0) > PAGE" :rows="PAGE" :first="asked.page * PAGE" :total-records="images.data.value?.total ?? 0" @sort="(e) => Object.assign(asked, { sort: String(e.sortField), descending: e.sortOrder === -1, page: 0 })" @page="(e) => (asked.page = e.page)" @row-select="(e) => router.push(`/images/${(e.data as ImageLine).id}`)">
    <Column field="computer" header="Computer" sortable><template #body="{ data }"><GrainMark :state="data.shelf === 'released' ? 'released' : data.damaged ? 'failed' : data.origin === 'paper' ? 'unseen' : 'kept'" /> <b>{{ data.computer }}</b> {{ data.disk }}<span v-if="data.partly" class="small grain">, {{ data.partly }}</span></template></Column>
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
