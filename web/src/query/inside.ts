import { keepPreviousData } from '@tanstack/vue-query'
import { client } from '../api/client'
import { useAsk } from './ask'

/** An image, its partitions, and the other images of its disk. */
export const useInside = (id: () => string) =>
  useAsk(['inside', id], () => client.GET('/api/v1/inside/{imageId}', { params: { path: { imageId: id() } } }))

/** How one page of a folder is asked for. */
export interface FolderAsked {
  place: string
  text: string
  sort: 'name' | 'bytes' | 'modified'
  descending: boolean
  from: number
}

export const useFolder = (id: () => string, asked: () => FolderAsked, enabled: () => boolean) =>
  useAsk(
    ['inside', id, 'folder', asked],
    () => client.GET('/api/v1/inside/{imageId}/folder', { params: { path: { imageId: id() }, query: asked() } }),
    { enabled, placeholderData: keepPreviousData, staleTime: Infinity },
  )

/** The bytes of the files in a folder too large to be read whole for one page of it. */
export const useFolderWeight = (id: () => string, place: () => string, enabled: () => boolean) =>
  useAsk(
    ['inside', id, 'weight', place],
    () =>
      client.GET('/api/v1/inside/{imageId}/folder', {
        params: { path: { imageId: id() }, query: { place: place(), most: 1, weighed: true } },
      }),
    { enabled, staleTime: Infinity },
  )

export const useFoundInside = (id: () => string, asked: () => { place: string; text: string }, enabled: () => boolean) =>
  useAsk(
    ['inside', id, 'search', asked],
    () => client.GET('/api/v1/inside/{imageId}/search', { params: { path: { imageId: id() }, query: asked() } }),
    { enabled, staleTime: Infinity },
  )

export const useFileInside = (id: () => string, place: () => string) =>
  useAsk(
    ['inside', id, 'file', place],
    () => client.GET('/api/v1/inside/{imageId}/file', { params: { path: { imageId: id() }, query: { place: place() } } }),
    { staleTime: Infinity },
  )

/** The same file in another image of the disk. */
export const useSameFile = (id: () => string, place: () => string, other: () => string, enabled: () => boolean) =>
  useAsk(
    ['inside', id, 'same', place, other],
    () => client.GET('/api/v1/inside/{imageId}/same', { params: { path: { imageId: id() }, query: { place: place(), other: other() } } }),
    { enabled, staleTime: Infinity },
  )
