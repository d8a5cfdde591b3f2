<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { useRouter } from 'vue-router'
import { answer, client, sentenceOf } from '../api/client'
import type { PlanForm } from '../api/types'
import { importedPlan } from './importedPlan'
import PlanPage from './PlanPage.vue'

const props = defineProps<{ diskId: string }>()
const router = useRouter()
const cache = useQueryClient()
const imported = importedPlan.value
importedPlan.value = null
const proposal = useQuery({
  queryKey: ['proposal', props.diskId],
  queryFn: () => (imported ? Promise.resolve(imported) : answer(client.GET('/api/v1/plans/proposal', { params: { query: { diskId: props.diskId } } }))),
  staleTime: Infinity,
  gcTime: 0,
})

async function save(form: PlanForm) {
  const made = await answer(client.POST('/api/v1/plans', { body: form }))
  await cache.invalidateQueries({ queryKey: ['plans'] })
  await router.push(`/plans/${made.id}`)
}
</script>

<template>
  <p v-if="proposal.error.value" class="notice" role="alert">{{ sentenceOf(proposal.error.value) }} <RouterLink to="/plans">Back to the plans</RouterLink></p>
  <PlanPage v-if="proposal.data.value" :saved-form="proposal.data.value" :save="save" fresh />
</template>
