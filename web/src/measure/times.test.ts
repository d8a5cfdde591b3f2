import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { formatAge, formatClock, formatDay, formatFullDay, formatMoment, formatRange, formatSeconds } from './times'

interface Table {
  lengths: { seconds: number; text: string }[]
  ranges: { low: number; high: number; text: string }[]
  moments: { at: string; zone: string; day: string; fullDay: string; clock: string }[]
}
const table = JSON.parse(readFileSync('../core/src/test/resources/times.json', 'utf8')) as Table

describe('times', () => {
  it.each(table.lengths)('$seconds seconds read $text, as in the core', ({ seconds, text }) => expect(formatSeconds(seconds)).toBe(text))

  it.each(table.ranges)('$low to $high seconds read $text, as in the core', ({ low, high, text }) =>
    expect(formatRange(low, high)).toBe(text),
  )

  it.each(table.moments)('$at reads $day, $clock in $zone, as in the core', ({ at, zone, day, fullDay, clock }) => {
    expect(formatMoment(at, zone)).toBe(`${day}, ${clock}`)
    expect(formatClock(at, zone)).toBe(clock)
    const date = new Date(fullDay + ' 12:00 UTC').toISOString().slice(0, 10)
    expect(formatDay(date)).toBe(day)
    expect(formatFullDay(date)).toBe(fullDay)
    const own = Intl.DateTimeFormat().resolvedOptions().timeZone
    expect(formatMoment(at), 'without a zone').toBe(formatMoment(at, own))
  })

  it('tells ages in words', () => {
    const now = Date.parse('2026-11-24T12:00:00Z')
    expect(formatAge('2026-11-24T11:59:30Z', now)).toBe('just now')
    expect(formatAge('2026-11-24T11:20:00Z', now)).toBe('40 minutes ago')
    expect(formatAge('2026-11-24T02:00:00Z', now)).toBe('10 hours ago')
    expect(formatAge('2026-10-14T12:00:00Z', now)).toBe('41 days ago')
  })
})
