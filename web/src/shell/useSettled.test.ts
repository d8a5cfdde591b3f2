import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { createApp, effectScope, nextTick, ref } from 'vue'
import { useSettled } from './useSettled'

describe('a page that waits for its first answers', () => {
  const frames: FrameRequestCallback[] = []
  let now = 0
  beforeEach(() => {
    vi.stubGlobal('requestAnimationFrame', (frame: FrameRequestCallback) => frames.push(frame))
    vi.stubGlobal('cancelAnimationFrame', () => frames.splice(0))
    vi.stubGlobal('performance', { now: () => now })
  })
  afterEach(() => vi.unstubAllGlobals())

  const drawn = () => frames.splice(0).forEach((frame) => frame(now))

  it('is settled when they are there, at once when they are known, and after a while in any case', async () => {
    const cache = new QueryClient()
    const page = ref('/today')
    const settled = createApp({})
      .use(VueQueryPlugin, { queryClient: cache })
      .runWithContext(() => effectScope().run(() => useSettled(() => page.value))!)
    expect(settled.value).toBe(true)

    let come: (answer: number) => void = () => undefined
    const asked = (key: string) =>
      cache.fetchQuery({ queryKey: [key], queryFn: () => new Promise<number>((done) => (come = done)), staleTime: Infinity })
    const answered = asked('computers')
    page.value = '/computers'
    await nextTick()
    expect(settled.value).toBe(false)
    drawn()
    expect(settled.value).toBe(false)
    come(9)
    await answered
    drawn()
    expect(settled.value).toBe(true)

    await asked('computers')
    page.value = '/today'
    await nextTick()
    expect(settled.value).toBe(true)

    const sampled = asked('estimate')
    page.value = '/make-image/1'
    await nextTick()
    expect(settled.value, 'a sample is not waited for').toBe(true)
    come(1)
    await sampled

    const late = asked('plans')
    page.value = '/plans/new/1'
    await nextTick()
    expect(settled.value).toBe(false)
    now += 401
    drawn()
    expect(settled.value).toBe(true)
    come(1)
    await late
  })
})
