<script setup lang="ts">
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { answer, client, sentenceOf } from '../api/client'
import type { PlanForm } from '../api/types'
import { importedPlan } from './importedPlan'
import PlanPage from './PlanPage.vue'
import { useChanged } from '../query/ask'
import { useProposal } from '../query/plans'

const props = defineProps<{ diskId: string }>()
const router = useRouter()
const changed = useChanged()
const imported = importedPlan.value
importedPlan.value = null
const proposal = useProposal(props.diskId, imported)
const first = computed(() => proposal.data.value && { form: proposal.data.value, version: 0 })

async function save(form: PlanForm) {
  const made = await answer(client.POST('/api/v1/plans', { body: form }))
  await changed('plans')
  await router.push(`/plans/${made.id}`)
}
</script>

<template>
  <p v-if="proposal.error.value" class="notice" role="alert">
    {{ sentenceOf(proposal.error.value) }} <RouterLink to="/plans">Back to the plans</RouterLink>
  </p>
  <PlanPage v-if="first" :saved="first" :save="save" fresh />
</template>
