import { describe, expect, it } from 'vitest'
import { formatAge, formatRange, formatSeconds } from './times'

describe('times', () => {
  it.each([[0.2, '1 s'], [40, '40 s'], [89.4, '89 s'], [90, '2 min'], [750, '13 min'], [5399, '1 h 30'], [3600 * 2 + 300, '2 h 05']])('%d seconds read %s', (seconds, text) => {
    expect(formatSeconds(seconds)).toBe(text)
  })

  it('joins a range with one unit where it can', () => {
    expect(formatRange(18, 26)).toBe('18 to 26 s')
    expect(formatRange(80, 100)).toBe('80 s to 2 min')
    expect(formatRange(5, 5.2)).toBe('5 s')
    expect(formatRange(6000, 7200)).toBe('1 h 40 to 2 h 00')
  })

  it('tells ages in words', () => {
    const now = Date.parse('2026-11-24T12:00:00Z')
    expect(formatAge('2026-11-24T11:59:30Z', now)).toBe('just now')
    expect(formatAge('2026-11-24T11:20:00Z', now)).toBe('40 minutes ago')
    expect(formatAge('2026-11-24T02:00:00Z', now)).toBe('10 hours ago')
    expect(formatAge('2026-10-14T12:00:00Z', now)).toBe('41 days ago')
  })
})
