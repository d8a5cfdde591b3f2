<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { answer, client, sentenceOf } from '../api/client'
import { useAction } from '../api/useAction'
import PageHeading from '../frame/PageHeading.vue'
import { formatMoment } from '../measure/times'
import { useSession } from '../session/useSession'
import DeathCard from './DeathCard.vue'
import { useCards } from '../query/today'

/** All cards, one a page when printed, and as a plain file on every destination. */
const { mayAct } = useSession()
const said = ref('')
const cards = useCards()
const blocked = computed(() => cards.data.value?.cards.filter((c) => c.inTheWay.length).length ?? 0)
const {
  act: save,
  busy,
  refused,
} = useAction(async () => {
  said.value = (await answer(client.POST('/api/v1/cards/export'))).sentence
})
const print = () => window.print()
</script>

<template>
  <PageHeading title="If it dies today"
    ><template v-if="cards.data.value"
      >{{ cards.data.value.cards.length }} computers, written {{ formatMoment(cards.data.value.writtenAt) }}. Something stands in the way of
      {{ blocked }}.</template
    >
    <template #action
      ><div class="tools">
        <Button v-if="mayAct" label="Write them to every drive" severity="secondary" outlined :loading="busy" @click="save" /><Button
          label="Print the booklet"
          @click="print"
        /></div
    ></template>
  </PageHeading>
  <p v-if="cards.error.value || refused" class="notice" role="alert">{{ refused || sentenceOf(cards.error.value) }}</p>
  <p v-if="said" class="moss small no-print" role="status">{{ said }}</p>
  <p class="names no-print">
    <a v-for="c in cards.data.value?.cards" :key="c.computerId" :href="`#card-${c.computerId}`">{{ c.computer }}</a>
  </p>
  <DeathCard v-for="c in cards.data.value?.cards" :id="`card-${c.computerId}`" :key="c.computerId" :card="c" />
  <p v-if="cards.data.value && !cards.data.value.cards.length" class="empty">
    A card per computer shows here. <RouterLink to="/computers">Add the first computer</RouterLink>.
  </p>
</template>

<style scoped>
.tools { display: flex; gap: 12px; }
.names { display: flex; gap: 14px; flex-wrap: wrap; margin-bottom: 16px; }
</style>
