import { describe, expect, it } from 'vitest'
import { pieces, sliderBytes, type Place } from './layout'

const place = (number: number, start: number, bytes: number, used = 0): Place => ({ number, start, bytes, used, name: `p${number}`, hidden: false, note: '' })

describe('the strip of a layout', () => {
  it('is filled by partitions and what is free, in the order they lie', () => {
    const out = pieces([place(2, 500, 300, 150), place(1, 0, 500)], 1000, 400)
    expect(out.map((p) => p.place?.number ?? 0)).toEqual([1, 2, 0])
    expect(out.reduce((sum, p) => sum + p.width, 0)).toBeCloseTo(400)
    expect(out[1]?.used).toBeCloseTo((out[1]?.width ?? 0) / 2)
  })
  it('draws small partitions wide enough to be named', () => {
    const out = pieces([place(1, 0, 1), place(2, 1, 999)], 1000, 600)
    expect(out[0]?.width).toBe(62)
  })
})

describe('a size set by hand', () => {
  it('is whole MiB between its bounds', () => {
    expect(sliderBytes(0, 5_000_000, 9_000_000)).toBe(5_000_000)
    expect(sliderBytes(1000, 5_000_000, 9_000_001)).toBe(9_000_001)
    expect(sliderBytes(500, 0, 10 * 1048576) % 1048576).toBe(0)
  })
})
