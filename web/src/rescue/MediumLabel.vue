<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { sentenceOf } from '../api/client'
import PageHeading from '../frame/PageHeading.vue'
import { useOffice } from '../query/office'
import { useRescueMedia } from '../query/restorations'

/** The label of a stick or disc, to be printed and tied to it. */
const props = defineProps<{ mediumId: string }>()
const page = useRescueMedia()
const medium = computed(() => page.data.value?.media.find((m) => m.id === props.mediumId))
const office = useOffice()
const print = () => window.print()
</script>

<template>
  <PageHeading :title="medium ? `${medium.name}, label` : 'Label'"
    ><RouterLink to="/rescue-media" class="no-print">All rescue media</RouterLink>
    <template #action><Button label="Print it" severity="secondary" outlined @click="print" /></template>
  </PageHeading>
  <p v-if="page.error.value" class="notice" role="alert">{{ sentenceOf(page.error.value) }}</p>
  <div v-if="medium" class="label">
    <img :src="`/api/v1/rescue-media/${mediumId}/code.svg`" :alt="`QR code of ${medium.name}`" />
    <div>
      <b class="serif name">{{ medium.name }}</b>
      <p>{{ office.data.value?.name }}{{ medium.spareSet ? ', spare set' : '' }}</p>
      <p>{{ medium.contents || 'blank' }}</p>
      <p class="small">Starts {{ medium.startsComputers.join(', ') || 'nothing yet: try it' }}</p>
      <p class="small">Rescue system. Do not erase; take it out before a computer starts by itself.</p>
    </div>
  </div>
</template>

<style scoped>
.label {
  display: inline-flex;
  gap: 14px;
  border: 1px dashed var(--ink-soft);
  padding: 10px 18px 10px 10px;
  align-items: center;
  background: #fff;
  color: #24211b;
  max-width: 460px;
}
.label img { width: 118px; height: 118px; }
.name { font-size: 24px; }
</style>
