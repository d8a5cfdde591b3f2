import { client } from '../api/client'
import { question, useQuestion } from './ask'

export const RUNS = question(['runs'], () => client.GET('/api/v1/runs'))

export const useRuns = () => useQuestion(RUNS)

export const WAITING = question(['waiting'], () => client.GET('/api/v1/runs/waiting'))

export const useWaiting = () => useQuestion(WAITING)

export const UNFINISHED = question(['unfinished'], () => client.GET('/api/v1/unfinished'))

export const useUnfinished = () => useQuestion(UNFINISHED)
