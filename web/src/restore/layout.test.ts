import { describe, expect, it } from 'vitest'
import { pieces, resized, sliderBytes, within, type Place } from './layout'

const place = (number: number, start: number, bytes: number, used = 0): Place => ({
  number,
  start,
  bytes,
  used,
  name: `p${number}`,
  hidden: false,
  note: '',
})

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
    expect(within(9_000_000_000, 5, 9_000_001)).toBe(9_000_001)
    expect(within(-4, 5_000_000, 9_000_000)).toBe(5_000_000)
  })
  it('pushes what lies behind it, and only as far as it must', () => {
    const places = [place(1, 0, 100, 40), place(2, 100, 50), place(3, 400, 100)]
    expect(resized(places, 1, 250).map((p) => [p.number, p.start, p.bytes])).toEqual([
      [1, 0, 250],
      [2, 250, 50],
      [3, 400, 100],
    ])
    expect(resized(places, 1, 380).map((p) => p.start)).toEqual([0, 380, 430])
    expect(resized(places, 1, 30).map((p) => [p.start, p.used])).toEqual([
      [0, 30],
      [100, 0],
      [400, 0],
    ])
    expect(resized(places, 9, 1)).toEqual(places)
  })
})
