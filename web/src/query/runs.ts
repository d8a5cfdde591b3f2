import { client } from '../api/client'
import { useAsk } from './ask'

export const useRuns = () => useAsk(['runs'], () => client.GET('/api/v1/runs'))

export const useWaiting = () => useAsk(['waiting'], () => client.GET('/api/v1/runs/waiting'))

export const useUnfinished = () => useAsk(['unfinished'], () => client.GET('/api/v1/unfinished'))
