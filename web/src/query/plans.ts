import type { Ref } from 'vue'
import { keepPreviousData } from '@tanstack/vue-query'
import { client } from '../api/client'
import type { PlanForm } from '../api/types'
import { question, useAsk, useQuestion } from './ask'

export const PLANS = question(['plans'], (by) => by.GET('/api/v1/plans'))

export const usePlans = (enabled: () => boolean = () => true) => useQuestion(PLANS, { enabled })

export const usePlan = (id: () => string) =>
  useAsk(['plan', id], () => client.GET('/api/v1/plans/{id}', { params: { path: { id: id() } } }))

/** A plan to begin with: the imported one where there is one, else what Granary would choose. Asked once, since a person changes it. */
export const useProposal = (diskId: string, imported: PlanForm | null) =>
  useAsk<PlanForm>(
    ['proposal', diskId],
    () => (imported ? Promise.resolve({ data: imported }) : client.GET('/api/v1/plans/proposal', { params: { query: { diskId } } })),
    { staleTime: Infinity, gcTime: 0 },
  )

/** What a plan would come to, as it is typed. */
export const useReview = (form: Ref<PlanForm>, enabled: () => boolean) =>
  useAsk(['review', form], () => client.POST('/api/v1/plans/review', { body: form.value }), {
    enabled,
    placeholderData: keepPreviousData,
    staleTime: 30_000,
  })
