import { keepPreviousData } from '@tanstack/vue-query'
import type { Ref } from 'vue'
import { client } from '../api/client'
import type { paths } from '../api/api-types'
import { useAsk } from './ask'

type Trial = NonNullable<paths['/api/v1/retention/outlook']['get']['parameters']['query']>

export const useRetention = () => useAsk(['retention'], () => client.GET('/api/v1/retention'))

/** The coming year by the office's rules, or by those on trial. */
export const useOutlook = (trial: Ref<Trial>) =>
  useAsk(['outlook', trial], () => client.GET('/api/v1/retention/outlook', { params: { query: trial.value } }), {
    placeholderData: keepPreviousData,
  })
