<script setup lang="ts">
import Button from 'primevue/button'
import { sentenceOf } from '../api/client'
import { useUnits } from '../measure/useUnits'
import PageHeading from '../frame/PageHeading.vue'
import TallyMark from '../proof/TallyMark.vue'
import { formatMoment } from '../measure/times'
import { useLabel } from '../query/destinations'
import { useOffice } from '../query/office'

/** A drive's label with its QR code, and what lies on it, to be printed and kept with it. */
const props = defineProps<{ destinationId: string }>()
const { size } = useUnits()
const label = useLabel(() => props.destinationId)
const office = useOffice()
const print = () => window.print()
</script>

<template>
  <PageHeading :title="label.data.value ? `${label.data.value.name}, label and contents` : 'Label'"
    ><RouterLink to="/destinations" class="no-print">All destinations</RouterLink>
    <template #action><Button label="Print them" severity="secondary" outlined @click="print" /></template>
  </PageHeading>
  <p v-if="label.error.value" class="notice" role="alert">{{ sentenceOf(label.error.value) }}</p>
  <template v-if="label.data.value">
    <div class="label">
      <img :src="`/api/v1/labels/${destinationId}/code.svg`" :alt="`QR code: ${label.data.value.code}`" />
      <div>
        <b class="serif name">{{ label.data.value.name }}</b>
        <p>{{ office.data.value?.name }}</p>
        <p>{{ size(label.data.value.capacityBytes) }}{{ label.data.value.rotation ? `, ${label.data.value.rotation}` : '' }}</p>
        <p class="small">{{ label.data.value.id }}</p>
        <p class="small">Disk images. Do not erase.</p>
      </div>
    </div>
    <h2 class="section">What lies on it, {{ formatMoment(label.data.value.printedAt) }}, {{ label.data.value.place }}</h2>
    <table v-if="label.data.value.contents.length">
      <thead>
        <tr>
          <th>Computer</th>
          <th>As of</th>
          <th>Image</th>
          <th class="number">Stored</th>
          <th>Proof</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in label.data.value.contents" :key="c.name + c.madeAt">
          <td>
            <b>{{ c.computer }}</b> {{ c.disk }}
          </td>
          <td>{{ formatMoment(c.madeAt) }}</td>
          <td>{{ c.name }}{{ c.encrypted ? ', encrypted' : '' }}</td>
          <td class="number">{{ size(c.storedBytes) }}</td>
          <td><TallyMark :proof="c.proof" :damaged="false" /></td>
        </tr>
      </tbody>
    </table>
    <p v-else class="empty">No image lies on it.</p>
  </template>
</template>

<style scoped>
.label {
  display: inline-flex;
  gap: 14px;
  border: 1px dashed var(--ink-soft);
  padding: 10px 18px 10px 10px;
  margin-bottom: 22px;
  align-items: center;
  background: #fff;
  color: #24211b;
}
.label img { width: 118px; height: 118px; }
.name { font-size: 24px; }
</style>
