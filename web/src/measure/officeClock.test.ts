import { afterEach, expect, it, vi } from 'vitest'
import { officeNow, setOfficeClock } from './officeClock'

afterEach(() => {
  vi.useRealTimers()
  setOfficeClock(new Date().toISOString())
})

it('goes by the server where the two differ by much, and by the browser where they do not', () => {
  vi.useFakeTimers({ now: Date.parse('2026-11-28T21:00:00Z') })
  setOfficeClock('2026-11-24T14:40:00Z')
  expect(new Date(officeNow()).toISOString()).toBe('2026-11-24T14:40:00.000Z')
  vi.advanceTimersByTime(60_000)
  expect(new Date(officeNow()).toISOString()).toBe('2026-11-24T14:41:00.000Z')
  setOfficeClock('2026-11-28T21:05:00Z')
  expect(officeNow()).toBe(Date.now())
  setOfficeClock('nonsense')
  expect(officeNow()).toBe(Date.now())
})
