<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { client } from '../api/client'
import { useAction } from '../api/useAction'
import TextField from '../field/TextField.vue'
import DateField from '../field/DateField.vue'
import { formatDay, formatMoment } from '../measure/times'
import { useKept } from '../query/images'

/** Whether it stays, by which rule, and holds on it. */
const props = defineProps<{ imageId: string; mayAct: boolean }>()
const reason = ref('')
const until = ref('')
const kept = useKept(() => props.imageId)
const { act: hold, refused } = useAction(async () => {
  await client.POST('/api/v1/retention/images/{id}/holds', {
    params: { path: { id: props.imageId } },
    body: { reason: reason.value, until: until.value || null },
  })
  reason.value = ''
  until.value = ''
  await kept.refetch()
})
const { act: end, refused: notEnded } = useAction(async (id: string) => {
  await client.POST('/api/v1/retention/images/{id}/holds/{hold}/end', { params: { path: { id: props.imageId, hold: id } } })
  await kept.refetch()
})
</script>

<template>
  <section v-if="kept.data.value?.why || kept.data.value?.holds.length">
    <h2 class="section">Whether it stays</h2>
    <p class="small" :class="kept.data.value.kept ? '' : 'grain'">{{ kept.data.value.why }}</p>
    <p v-if="refused || notEnded" class="notice" role="alert">{{ refused || notEnded }}</p>
    <p v-for="h in kept.data.value.holds" :key="h.id" class="small">
      Held since {{ formatMoment(h.placedAt) }} by {{ h.placedBy }}{{ h.until ? `, until ${formatDay(h.until)}` : '' }}: {{ h.reason }}
      <button v-if="mayAct" type="button" class="figure" @click="end(h.id)">End the hold</button>
    </p>
    <form v-if="mayAct" @submit.prevent="hold">
      <TextField v-model="reason" class="reason" fluid maxlength="300" label="Reason to hold it" hint="like before the upgrade" />
      <DateField v-model="until" label="Held until" />
      <Button type="submit" label="Hold it" size="small" severity="secondary" outlined :disabled="!reason.trim()" />
    </form>
  </section>
</template>

<style scoped>
section { margin-top: 16px; }
form { display: flex; gap: 8px; align-items: end; margin-top: 6px; flex-wrap: wrap; }
.reason { flex: 1; min-width: 180px; }
</style>
