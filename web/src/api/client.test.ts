import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { answer, client, onSignedOut, Refusal, sentenceOf } from './client'

/** What the server was asked, and what it is made to answer. */
function served(status: number, body: unknown, type = 'application/json') {
  const asked: Request[] = []
  vi.stubGlobal('fetch', async (request: Request) => {
    asked.push(request)
    return new Response(status === 204 ? null : typeof body === 'string' ? body : JSON.stringify(body), {
      status,
      headers: { 'content-type': type },
    })
  })
  return asked
}

describe('client', () => {
  beforeEach(() => {
    vi.stubGlobal('document', { cookie: 'other=1; XSRF-TOKEN=a%2Fb' })
  })
  afterEach(() => vi.unstubAllGlobals())

  it('sends the CSRF token with what changes, and with nothing else', async () => {
    const asked = served(200, { name: 'ada' })
    await client.GET('/api/v1/session')
    await client.POST('/api/v1/session', { body: { name: 'ada', password: 'p' } })
    expect(asked[0]!.headers.get('X-XSRF-TOKEN')).toBeNull()
    expect(asked[1]!.headers.get('X-XSRF-TOKEN')).toBe('a/b')
    expect(await asked[1]!.json()).toEqual({ name: 'ada', password: 'p' })
  })

  it('gives the content of an answer', async () => {
    served(200, { name: 'Marrowby', simulation: '', diskFolder: '' })
    expect(await answer(client.GET('/api/v1/office'))).toMatchObject({ name: 'Marrowby' })
  })

  it('tells when nobody is signed in any more, and of no other refusal', async () => {
    const told = vi.fn()
    onSignedOut(told)
    served(401, { type: 'urn:granary:problem:sign-in-failed', detail: 'No account has that name.' }, 'application/problem+json')
    await client.GET('/api/v1/runs').catch(() => undefined)
    expect(told).not.toHaveBeenCalled()
    served(401, { type: 'urn:granary:problem:not-signed-in', detail: 'Sign in first.' }, 'application/problem+json')
    await client.GET('/api/v1/runs').catch(() => undefined)
    expect(told).toHaveBeenCalledOnce()
    onSignedOut(() => undefined)
  })

  it("turns problem details into a refusal with the server's sentence", async () => {
    served(
      409,
      { type: 'urn:granary:problem:unfit-room', detail: 'PEG-2 is 26 GB short.', field: 'destinationId' },
      'application/problem+json',
    )
    const failure = await client.GET('/api/v1/runs').catch((thrown: unknown) => thrown)
    expect(failure).toBeInstanceOf(Refusal)
    expect(failure).toMatchObject({ type: 'unfit-room', field: 'destinationId', status: 409 })
    expect(sentenceOf(failure)).toBe('PEG-2 is 26 GB short.')
  })

  it('says something useful when the answer is no problem detail, or none comes', async () => {
    served(502, 'gateway', 'text/plain')
    expect(sentenceOf(await client.GET('/api/v1/runs').catch((thrown: unknown) => thrown))).toContain('Granary answered 502')
    vi.stubGlobal('fetch', async () => {
      throw new TypeError('failed to fetch')
    })
    expect(sentenceOf(await client.GET('/api/v1/runs').catch((thrown: unknown) => thrown))).toContain('cannot be reached')
    expect(sentenceOf(new Error('bug'))).toContain('unforeseen')
  })
})

describe('sentences', () => {
  it('are the only thing a page shows of a refusal', () => {
    const refusal = new Refusal('bad-choice', 'Choose another name.', 'name', 400)
    expect(refusal.message).toBe('Choose another name.')
    expect(sentenceOf(refusal)).toBe('Choose another name.')
    expect(sentenceOf('text')).toContain('Load it again')
    expect(sentenceOf(undefined)).toContain('Load it again')
  })

  it('follow a request that was refused for a stale page', async () => {
    vi.stubGlobal('document', { cookie: '' })
    const asked = served(403, {
      type: 'urn:granary:problem:not-allowed',
      detail: 'This page is out of date. Load it again and repeat the action.',
    })
    const failure = await client.POST('/api/v1/runs/{id}/stop', { params: { path: { id: 'x' } } }).catch((thrown: unknown) => thrown)
    expect(asked[0]!.headers.get('X-XSRF-TOKEN')).toBe('')
    expect(asked[0]!.url).toContain('/api/v1/runs/x/stop')
    expect(sentenceOf(failure)).toContain('out of date')
    vi.unstubAllGlobals()
  })
})
