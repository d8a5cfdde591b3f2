import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { createApp, effectScope } from 'vue'
import { onSignedOut } from '../api/client'
import { question, useAhead } from './ask'

describe('what is asked ahead', () => {
  const ended = vi.fn()
  beforeEach(() => {
    onSignedOut(ended)
    vi.stubGlobal('fetch', () =>
      Promise.resolve(new Response('{"type":"urn:granary:problem:not-signed-in","detail":"Sign in first."}', { status: 401 })),
    )
  })
  afterEach(() => vi.unstubAllGlobals())

  it.each([false, true])('tells nobody that the sign-in has ended, and whoever asks then is told', async (paged) => {
    ended.mockReset()
    const cache = new QueryClient()
    const asked = question(['runs'], (by) => by.GET('/api/v1/runs'), paged)
    const ahead = createApp({})
      .use(VueQueryPlugin, { queryClient: cache })
      .runWithContext(() => effectScope().run(() => useAhead())!)
    await ahead(asked)
    expect(cache.getQueryState(['runs'])?.status).toBe('error')
    expect(ended).not.toHaveBeenCalled()
    await cache.refetchQueries({ queryKey: ['runs'], type: 'all' })
    expect(ended).toHaveBeenCalledTimes(1)
  })
})
