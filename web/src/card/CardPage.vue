<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { answer, client, sentenceOf } from '../api/client'
import PageHeading from '../frame/PageHeading.vue'
import DeathCard from './DeathCard.vue'

const props = defineProps<{ computerId: string }>()
const card = useQuery({ queryKey: ['card', props.computerId], queryFn: () => answer(client.GET('/api/v1/cards/{computerId}', { params: { path: { computerId: props.computerId } } })) })
const print = () => window.print()
</script>

<template>
  <PageHeading title="If it dies today"><RouterLink :to="`/computers/${computerId}`" class="no-print">All there is of it</RouterLink>&ensp;<RouterLink v-if="card.data.value" :to="{ path: '/restore', query: { computer: card.data.value.computer } }" class="no-print">Bring it back now</RouterLink>
    <template #action><Button label="Print the card" severity="secondary" outlined @click="print" /></template>
  </PageHeading>
  <p v-if="card.error.value" class="notice" role="alert">{{ sentenceOf(card.error.value) }}</p>
  <DeathCard v-if="card.data.value" :card="card.data.value" />
</template>
