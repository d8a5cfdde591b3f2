import { keepPreviousData } from '@tanstack/vue-query'
import { client } from '../api/client'
import { question, useAsk, useQuestion } from './ask'

/** Much of Today comes with time alone, which no event tells. */
const TODAY_MILLIS = 15_000
const NIGHT_MILLIS = 30_000

export const TODAY = question(['today'], (by) => by.GET('/api/v1/today'))

export const useToday = () => useQuestion(TODAY, { refetchInterval: TODAY_MILLIS })

/** The coming night. */
export const COMING_NIGHT = question(['night', ''], (by) => by.GET('/api/v1/night'))

/** @param date of the evening, YYYY-MM-DD; undefined for the coming night */
export const useNight = (date: () => string | undefined) =>
  useAsk(['night', () => date() ?? ''], () => client.GET('/api/v1/night', { params: { query: { date: date() } } }), {
    placeholderData: keepPreviousData,
    refetchInterval: NIGHT_MILLIS,
  })

export const CARDS = question(['cards'], (by) => by.GET('/api/v1/cards'))

export const useCards = () => useQuestion(CARDS)

export const useCard = (computerId: () => string) =>
  useAsk(['cards', computerId], () => client.GET('/api/v1/cards/{computerId}', { params: { path: { computerId: computerId() } } }))
