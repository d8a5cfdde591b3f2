import type { Ref } from 'vue'
import { keepPreviousData } from '@tanstack/vue-query'
import { client } from '../api/client'
import { question, useAsk } from './ask'

/** As the page of all images begins. */
export const SHELF_BEGINS = { text: '', drive: '', show: 'all', page: 0, size: 20 }

export const SHELF = question(['images', 'shelf', SHELF_BEGINS], (by) => by.GET('/api/v1/shelf', { params: { query: SHELF_BEGINS } }))

/** Images by computer and disk, each once, with its copies. */
export const useShelf = (asked: Ref<{ text: string; drive: string; show: string; page: number; size: number }>) =>
  useAsk(['images', 'shelf', asked], () => client.GET('/api/v1/shelf', { params: { query: asked.value } }), {
    placeholderData: keepPreviousData,
  })

export const useFoundImages = (text: Ref<string>, most: number, enabled: () => boolean) =>
  useAsk(['images', 'find', text], () => client.GET('/api/v1/shelf', { params: { query: { text: text.value, size: most } } }), {
    enabled,
    placeholderData: keepPreviousData,
  })

/** Copies, newest first, at most 200: all of them without a text. */
export const useCopies = (text: () => string = () => '', enabled: () => boolean = () => true) =>
  useAsk(['images', 'copies', text], () => client.GET('/api/v1/images/page', { params: { query: { text: text(), size: 200 } } }), {
    enabled,
    placeholderData: keepPreviousData,
  })

export const useImage = (id: () => string) =>
  useAsk(['image', id], () => client.GET('/api/v1/images/{id}', { params: { path: { id: id() } } }))

export const useImageFacts = (id: () => string, enabled: () => boolean) =>
  useAsk(['image', id, 'facts'], () => client.GET('/api/v1/images/{id}/facts', { params: { path: { id: id() } } }), { enabled })

export const useRehearsals = (imageId: () => string) =>
  useAsk(['rehearsals', imageId], () => client.GET('/api/v1/rehearsals/of/{imageId}', { params: { path: { imageId: imageId() } } }))

/** Whether an image stays, by which rule, and holds on it. */
export const useKept = (imageId: () => string) =>
  useAsk(['kept', imageId], () => client.GET('/api/v1/retention/images/{id}', { params: { path: { id: imageId() } } }))
