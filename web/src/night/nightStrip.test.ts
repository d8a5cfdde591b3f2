import { describe, expect, it } from 'vitest'
import { hourTicks, stripScale } from './nightStrip'

describe('the strip of a night', () => {
  const scale = stripScale('2026-11-24T17:00:00Z', '2026-11-25T09:00:00Z', 960)
  it('gives an hour its share', () => {
    expect(scale.at('2026-11-24T18:00:00Z')).toBe(60)
    expect(scale.stretch('2026-11-24T19:00:00Z', '2026-11-24T21:00:00Z')).toEqual({ x: 120, width: 120 })
  })
  it('keeps what is short visible and what lies outside within', () => {
    expect(scale.stretch('2026-11-24T19:00:00Z', '2026-11-24T19:00:10Z').width).toBe(2)
    expect(scale.at('2026-11-25T12:00:00Z')).toBe(960)
    expect(scale.at('2026-11-24T12:00:00Z')).toBe(0)
  })
  it('labels as many hours as have room', () => {
    expect(hourTicks('2026-11-24T17:00:00Z', '2026-11-24T20:30:00Z', 960, 50)).toHaveLength(4)
    const sparse = hourTicks('2026-11-24T17:00:00Z', '2026-11-25T09:00:00Z', 640, 60)
    expect(sparse[0]).toBe('2026-11-24T18:00:00.000Z')
    expect(sparse).toHaveLength(8)
  })
})
