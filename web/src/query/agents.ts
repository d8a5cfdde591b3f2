import { client } from '../api/client'
import { useAsk } from './ask'

/** That one has gone silent comes with time alone. */
const SILENT_MILLIS = 15_000

/** Computers that are here by their agents. */
export const useAgents = () => useAsk(['agents'], () => client.GET('/api/v1/agents'), { refetchInterval: SILENT_MILLIS })
