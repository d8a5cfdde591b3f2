import { question, useQuestion } from './ask'

/** That one has gone silent comes with time alone. */
const SILENT_MILLIS = 15_000

/** Computers that are here by their agents. */
export const AGENTS = question(['agents'], (by) => by.GET('/api/v1/agents'))

export const useAgents = () => useQuestion(AGENTS, { refetchInterval: SILENT_MILLIS })
