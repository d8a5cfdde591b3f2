import { client } from '../api/client'
import { question, useAsk, useQuestion } from './ask'

/** Disks that could be overwritten. Nothing on them is read for the list. */
export const TARGETS = question(['targets'], (by) => by.GET('/api/v1/targets'))

export const useTargets = () => useQuestion(TARGETS)

/** One of them, with what is on it now. */
export const useTarget = (id: () => string, enabled: () => boolean = () => true) =>
  useAsk(['targets', id], () => client.GET('/api/v1/targets/{id}', { params: { path: { id: id() } } }), { enabled, staleTime: 0 })

/** Whether the disk that is meant was pulled and plugged in again, while `watching`. */
export const useReplug = (watching: () => boolean, everyMillis: number) =>
  useAsk(['replug'], () => client.GET('/api/v1/targets/replug'), {
    enabled: watching,
    refetchInterval: () => (watching() ? everyMillis : false),
  })

export const useFileSystems = () => useAsk(['file-systems'], () => client.GET('/api/v1/targets/file-systems'), { staleTime: Infinity })
