import { client } from '../api/client'
import { useAsk } from './ask'

export const useDestinations = () => useAsk(['destinations'], () => client.GET('/api/v1/destinations'))

export const useLabel = (destinationId: () => string) =>
  useAsk(['label', destinationId], () => client.GET('/api/v1/labels/{id}', { params: { path: { id: destinationId() } } }))
