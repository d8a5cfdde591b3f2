import { keepPreviousData } from '@tanstack/vue-query'
import { client } from '../api/client'
import type { paths } from '../api/api-types'
import { question, useAsk, useQuestion } from './ask'

type Order = paths['/api/v1/restore/layout']['post']['requestBody']['content']['application/json']

export const RESTORATIONS = question(['restorations'], (by) => by.GET('/api/v1/restore'))

export const useRestorations = () => useQuestion(RESTORATIONS)

/** What an image would look like on a target; a passphrase is part of the question and never of its key. */
export const useLayout = (order: () => Order, enabled: () => boolean) =>
  useAsk(
    ['layout', () => JSON.stringify({ ...order(), passphrase: !!order().passphrase })],
    () => client.POST('/api/v1/restore/layout', { body: order() }),
    { enabled, placeholderData: keepPreviousData },
  )

export const useRollouts = () => useAsk(['rollouts'], () => client.GET('/api/v1/rollouts'))

export const RESCUE_MEDIA = question(['rescue-media'], (by) => by.GET('/api/v1/rescue-media'))

export const useRescueMedia = () => useQuestion(RESCUE_MEDIA)
