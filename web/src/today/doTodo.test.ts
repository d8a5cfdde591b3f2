import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { doTodo } from './doTodo'

describe('what Today does from its lines', () => {
  const asked: string[] = []
  beforeEach(() => {
    asked.length = 0
    vi.stubGlobal('document', { cookie: '' })
    vi.stubGlobal('fetch', async (request: Request) => {
      asked.push(`${request.method} ${new URL(request.url).pathname} ${await request.clone().text()}`)
      return new Response(JSON.stringify({ newest: null, sentence: 'Copied.' }), { headers: { 'content-type': 'application/json' } })
    })
  })
  afterEach(() => vi.unstubAllGlobals())

  it.each([
    ['repair', 'i1,i2', 'POST /api/v1/runs/repairs {"imageId":"i1","fromImageId":"i2"'],
    ['release', 'i1', 'POST /api/v1/retention/releases {"images":["i1"]}'],
    ['write-off', 'i1,i2', 'POST /api/v1/reconciliation/written-off {"images":["i1","i2"]}'],
    ['check-disk', 'gnomon', 'POST /api/v1/today/disks/gnomon/check'],
    ['seen', 'r1', 'POST /api/v1/runs/r1/seen'],
    ['off-site', 'peg-1', 'POST /api/v1/destinations/peg-1/place {"kind":"off-site","exactly":""}'],
    ['copy-database', '', 'POST /api/v1/database/copies'],
  ])('%s asks the server', async (verb, subject, wanted) => {
    await doTodo({ verb, subject })
    expect(asked).toHaveLength(1)
    expect(asked[0]).toContain(wanted)
  })
  it('notes saved files for each computer', async () => {
    await doTodo({ verb: 'files-saved', subject: 'a,b' })
    expect(asked.map((a) => a.split(' ')[1])).toEqual(['/api/v1/computers/a/files-saved', '/api/v1/computers/b/files-saved'])
  })
})
