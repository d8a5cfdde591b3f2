import { keepPreviousData, useInfiniteQuery } from '@tanstack/vue-query'
import type { Ref } from 'vue'
import { answer, client } from '../api/client'
import type { paths } from '../api/api-types'
import { question, useAsk, useQuestion, type Key } from './ask'

type Filter = NonNullable<paths['/api/v1/journal']['get']['parameters']['query']>
/** As many lines as the server gives at once. */
const PAGE = 100

/** The newest of all lines. */
export const JOURNAL = question(['journal', {}], (by) => by.GET('/api/v1/journal'), true)

/** Lines, newest first, a page at a time. */
export const useJournal = (filter: () => Filter) => {
  const key: Key = ['journal', filter]
  return useInfiniteQuery({
    queryKey: key as unknown as unknown[],
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/v1/journal', { params: { query: { ...filter(), ...(pageParam ? { before: pageParam } : {}) } } })),
    initialPageParam: 0,
    getNextPageParam: (last) => (last.lines.length < PAGE ? undefined : last.lines.at(-1)?.id),
  })
}

/** The last six weeks day by day, of all lines. */
export const JOURNAL_DAYS = question(['journal', 'days', {}], (by) => by.GET('/api/v1/journal/days'))

/** The last six weeks day by day, of the lines that are asked for whatever their day. */
export const useJournalDays = (filter: () => Filter) =>
  useAsk(
    ['journal', 'days', filter],
    () => {
      const { account, action, text } = filter()
      return client.GET('/api/v1/journal/days', { params: { query: { account, action, text } } })
    },
    { placeholderData: keepPreviousData },
  )

/** What the journal can be narrowed to. */
export const JOURNAL_CHOICES = question(['journal-choices'], (by) => by.GET('/api/v1/journal/choices'))

export const useJournalChoices = () => useQuestion(JOURNAL_CHOICES)

export const useReport = (from: Ref<string>, to: Ref<string>) =>
  useAsk(['journal-report', from, to], () =>
    client.GET('/api/v1/journal/report', { params: { query: { from: from.value, to: to.value } } }),
  )

export const useMail = () => useAsk(['mail'], () => client.GET('/api/v1/mail'))
