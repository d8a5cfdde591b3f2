import { client } from '../api/client'
import { question, useAsk, useQuestion } from './ask'

export const DESTINATIONS = question(['destinations'], (by) => by.GET('/api/v1/destinations'))

export const useDestinations = () => useQuestion(DESTINATIONS)

export const useLabel = (destinationId: () => string) =>
  useAsk(['label', destinationId], () => client.GET('/api/v1/labels/{id}', { params: { path: { id: destinationId() } } }))
