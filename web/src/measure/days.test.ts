import { expect, test } from 'vitest'
import { dayOf, noonOf } from './days'

test('a day stays the same day there and back, and today is never in the future', () => {
  for (const day of ['2024-02-29', '2026-03-29', '2026-10-25', '2026-12-31']) expect(dayOf(new Date(noonOf(day)))).toBe(day)
  const now = new Date('2026-03-01T06:00:00')
  expect(new Date(noonOf('2026-03-01', now)).getTime()).toBe(now.getTime())
})
