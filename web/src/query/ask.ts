import { useQuery, useQueryClient, type UseQueryReturnType } from '@tanstack/vue-query'
import type { MaybeRefOrGetter } from 'vue'
import { answer, client, quietClient } from '../api/client'

/** What can be asked of the server, by the first word of its key. What has changed is told by this word, for all that begins with it. */
export const NOUNS = [
  'accounts',
  'agents',
  'cards',
  'computer',
  'computers',
  'database',
  'destinations',
  'disk',
  'estimate',
  'file-systems',
  'image',
  'images',
  'inside',
  'invitation',
  'journal',
  'journal-choices',
  'journal-report',
  'kept',
  'label',
  'layout',
  'mail',
  'mail-server',
  'night',
  'office',
  'office-choices',
  'office-days',
  'outlook',
  'plan',
  'plans',
  'proposal',
  'first-day',
  'folder-example',
  'rehearsal-schedule',
  'rehearsals',
  'replug',
  'rescue-media',
  'restorations',
  'retention',
  'review',
  'rollouts',
  'runs',
  'sampling',
  'served',
  'switches',
  'targets',
  'today',
  'unfinished',
  'waiting',
] as const
export type Noun = (typeof NOUNS)[number]
export type Key = readonly [Noun, ...MaybeRefOrGetter<unknown>[]]

/** How a question is asked, beside its key. */
export interface Asking<T> {
  enabled?: MaybeRefOrGetter<boolean>
  /** Milliseconds an answer stays fresh; as long as every other one without it. */
  staleTime?: number
  gcTime?: number
  placeholderData?: (before: T | undefined) => T | undefined
  /** Milliseconds until it is asked again, for what no event tells; false for not at all. */
  refetchInterval?: number | ((query: { state: { data: T | undefined } }) => number | false)
}

/** A question to the server, asked again when what it is about has changed; a refusal is not asked again. */
export function useAsk<T>(key: Key, call: () => Promise<{ data?: T }>, asking: Asking<T> = {}): UseQueryReturnType<T, Error> {
  return useQuery({ queryKey: key as unknown as unknown[], queryFn: () => answer(call()), retry: false, ...asking } as never) as never
}

type Call<T> = (by: typeof client) => Promise<{ data?: T }>

/** A question with nothing to fill in, which pages ask first. */
export interface Question<T> {
  key: Key
  call: Call<T>
  /** Whether it asks for the first page of several. */
  paged?: boolean
}

export const question = <T>(key: Key, call: Call<T>, paged = false): Question<T> => ({ key, call, paged })

export const useQuestion = <T>(asked: Question<T>, asking: Asking<T> = {}) => useAsk(asked.key, () => asked.call(client), asking)

/** Asks ahead of whoever will want to know, and disturbs nobody: a failure is met again by whoever asks then. */
export function useAhead() {
  const cache = useQueryClient()
  return (asked: Question<unknown>) => {
    let by = quietClient
    const query = { queryKey: asked.key as unknown as unknown[], queryFn: () => answer(asked.call(by)), retry: false }
    const asks = asked.paged ? cache.prefetchInfiniteQuery({ ...query, initialPageParam: 0 }) : cache.prefetchQuery(query)
    return asks.finally(() => (by = client)) // a page may ask by this query again
  }
}

/** Shows an answer that came with a change, without asking for it again. */
export function useAnswered() {
  const cache = useQueryClient()
  return <T>(key: readonly [Noun, ...string[]], value: T) => cache.setQueryData(key as unknown as unknown[], value)
}

/** Tells that something has changed: whoever shows it asks again. */
export function useChanged() {
  const cache = useQueryClient()
  return (...what: Noun[]) => Promise.all(what.map((noun) => cache.invalidateQueries({ queryKey: [noun] }))).then(() => undefined)
}
