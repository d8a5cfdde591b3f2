<script setup lang="ts">
import Button from 'primevue/button'
import { sentenceOf } from '../api/client'
import PageHeading from '../frame/PageHeading.vue'
import DeathCard from './DeathCard.vue'
import { useCard } from '../query/today'

const props = defineProps<{ computerId: string }>()
const card = useCard(() => props.computerId)
const print = () => window.print()
</script>

<template>
  <PageHeading title="If it dies today"
    ><RouterLink :to="`/computers/${computerId}`" class="no-print">All there is of it</RouterLink>&ensp;<RouterLink
      v-if="card.data.value"
      :to="{ path: '/restore', query: { computer: card.data.value.computer } }"
      class="no-print"
      >Bring it back now</RouterLink
    >
    <template #action><Button label="Print the card" severity="secondary" outlined @click="print" /></template>
  </PageHeading>
  <p v-if="card.error.value" class="notice" role="alert">{{ sentenceOf(card.error.value) }}</p>
  <DeathCard v-if="card.data.value" :card="card.data.value" />
</template>
