import { describe, expect, it } from 'vitest'
import { layRoom } from './room'

const drive = (capacityBytes: number, freeBytes: number, promisedBytes = 0) => ({
  capacityBytes,
  freeBytes,
  promisedBytes,
  reserveBytes: capacityBytes / 50,
})

describe('room in bins', () => {
  it('is drawn on one scale, floor to rim', () => {
    expect(layRoom([drive(1000, 250, 100), drive(500, 500)], 210)).toEqual([
      { rim: 10, stored: 60, promised: 40, reserve: 14 },
      { rim: 110, stored: 210, promised: 210, reserve: 112 },
    ])
  })

  it('stays within the bin whatever a drive claims', () => {
    for (const odd of [drive(0, 0), drive(100, 200), drive(100, -5, 500), drive(1, 1)]) {
      const [levels] = layRoom([odd, drive(1e12, 0)], 200)
      expect(levels!.rim).toBe(174)
      for (const y of Object.values(levels!)) expect(y).toBeGreaterThanOrEqual(174)
      for (const y of Object.values(levels!)) expect(y).toBeLessThanOrEqual(200)
    }
  })
})
