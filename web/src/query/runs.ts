import { question, useQuestion } from './ask'

export const RUNS = question(['runs'], (by) => by.GET('/api/v1/runs'))

export const useRuns = () => useQuestion(RUNS)

export const WAITING = question(['waiting'], (by) => by.GET('/api/v1/runs/waiting'))

export const useWaiting = () => useQuestion(WAITING)

export const UNFINISHED = question(['unfinished'], (by) => by.GET('/api/v1/unfinished'))

export const useUnfinished = () => useQuestion(UNFINISHED)
