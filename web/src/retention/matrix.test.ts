import { describe, expect, it } from 'vitest'
import { monthMarks, placeOf } from './matrix'

describe('the matrix', () => {
  it('places the first image left and now right', () => {
    expect([placeOf(10, 10, 110), placeOf(60, 10, 110), placeOf(110, 10, 110), placeOf(5, 5, 5)]).toEqual([0, 50, 100, 100])
  })
  it('marks the months between, and thins them out over years', () => {
    const at = (iso: string) => new Date(iso).getTime()
    expect(monthMarks(at('2026-10-05T12:00:00'), at('2027-01-20T12:00:00')).map((m) => m.label)).toEqual(['Nov', 'Dec', 'Jan 2027'])
    expect(monthMarks(at('2020-01-05T12:00:00'), at('2026-11-20T12:00:00')).length).toBeLessThanOrEqual(14)
    expect(monthMarks(at('2026-11-05T12:00:00'), at('2026-11-20T12:00:00'))).toEqual([])
  })
})
