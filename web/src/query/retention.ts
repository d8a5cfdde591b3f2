import { keepPreviousData } from '@tanstack/vue-query'
import type { Ref } from 'vue'
import { client } from '../api/client'
import type { paths } from '../api/api-types'
import { question, useAsk, useQuestion } from './ask'

type Trial = NonNullable<paths['/api/v1/retention/outlook']['get']['parameters']['query']>

export const RETENTION = question(['retention'], (by) => by.GET('/api/v1/retention'))

export const useRetention = () => useQuestion(RETENTION)

/** The coming year by the office's rules. */
export const OUTLOOK = question(['outlook', {}], (by) => by.GET('/api/v1/retention/outlook'))

/** The coming year by the office's rules, or by those on trial. */
export const useOutlook = (trial: Ref<Trial>) =>
  useAsk(['outlook', trial], () => client.GET('/api/v1/retention/outlook', { params: { query: trial.value } }), {
    placeholderData: keepPreviousData,
  })
