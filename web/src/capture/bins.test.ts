import { describe, expect, it } from 'vitest'
import type { Weighed } from '../api/types'
import { layBins } from './bins'

const drive = (capacityBytes: number, freeBytes: number, promisedBytes = 0, ownBytes = 0): Weighed => ({
  id: '',
  name: '',
  place: '',
  capacityBytes,
  freeBytes,
  promisedBytes,
  ownBytes,
  reserveBytes: capacityBytes / 50,
  fileLimitBytes: null,
  fit: true,
  attached: true,
  itself: false, rollBack: false,
  rank: 1,
  roomAfterBytes: 0,
  refusals: [], refusedBy: '', route: '',
  time: { lowSeconds: 0, highSeconds: 0, slowest: '', stages: [], working: { title: '', subtitle: '', lines: [], sentences: [] } },
  working: { title: '', subtitle: '', lines: [], sentences: [] },
})

describe('bins', () => {
  it('stand on one floor, on one scale', () => {
    const [large, half] = layBins([drive(1000, 600), drive(500, 500)], 100, 200, 300, 50)
    expect(large).toMatchObject({
      rim: 50,
      floor: 350,
      stored: { top: 230, bottom: 350 },
      low: { top: 200, bottom: 230 },
      doubt: { top: 170, bottom: 200 },
      reserve: 56,
    })
    expect(half).toMatchObject({ rim: 200, floor: 350, stored: { top: 350, bottom: 350 } })
    expect(large!.over.top).toBe(large!.over.bottom)
  })

  it('of no capacity are drawn empty, not as nonsense', () => {
    const [bin] = layBins([drive(0, 0)], 100, 200, 300, 50)
    expect(
      Object.values(bin!)
        .flatMap((part) => (typeof part === 'number' ? [part] : [part.top, part.bottom]))
        .every(Number.isFinite),
    ).toBe(true)
  })

  it('never turn a part upside down, whatever a drive answers', () => {
    for (const d of [drive(1000, 1001), drive(1000, 900, 0, 300), drive(1000, -5, 2000), drive(1000, 1000, 0, 1)]) {
      for (const part of Object.values(layBins([d], 150, 250, 300, 60)[0]!)) {
        if (typeof part !== 'number') expect(part.bottom).toBeGreaterThanOrEqual(part.top)
      }
    }
    const [own] = layBins([drive(1000, 900, 0, 60)], 150, 250, 300, 60)
    expect(own!.stored, 'its own bytes are part of the image').toEqual({ top: 348, bottom: 360 })
  })

  it('show promised room below the image and what is too much above the rim', () => {
    const [bin] = layBins([drive(1000, 200, 100)], 150, 250, 300, 60)
    expect(bin!.promised).toEqual({ top: 90, bottom: 120 })
    expect(bin!.low.top).toBe(bin!.rim)
    expect(bin!.over).toEqual({ top: 15, bottom: 60 })
  })
})
