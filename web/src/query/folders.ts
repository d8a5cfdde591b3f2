import { keepPreviousData } from '@tanstack/vue-query'
import { client } from '../api/client'
import { useAsk } from './ask'

/** Where images would lie, as it is typed: an empty pattern stands for what the office chose. */
export const useFolderExample = (pattern: () => string, diskId: () => string | undefined) =>
  useAsk(
    ['folder-example', pattern, diskId],
    () => client.GET('/api/v1/folders/example', { params: { query: { pattern: pattern(), diskId: diskId() } } }),
    { placeholderData: keepPreviousData, staleTime: 30_000 },
  )
