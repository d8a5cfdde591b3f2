import { describe, expect, it } from 'vitest'
import type { PlanLine } from '../api/types'
import { byDue, dueWords, fitWords, toLines } from './planWords'

const line = (name: string, state: string, due: string | null, overdueDays = 0) => ({ name, state, due, overdueDays }) as PlanLine

describe('what is due', () => {
  it.each([
    [line('a', 'paused', '2026-11-24'), 'paused'],
    [line('a', 'by-hand', null), 'when asked for'],
    [line('a', 'tonight', '2026-11-24'), 'tonight'],
    [line('a', 'overdue', '2026-11-23', 1), '1 day overdue'],
    [line('a', 'overdue', '2026-10-14', 41), '41 days overdue'],
    [line('a', 'later', '2026-11-26'), 'day 2026-11-26'],
  ])('%o reads as %s', (plan, words) => expect(dueWords(plan, (iso) => `day ${iso}`)).toBe(words))

  it('comes first, the longest overdue before all', () => {
    const plans = [
      line('c', 'later', '2026-11-26'),
      line('p', 'paused', '2026-11-01'),
      line('b', 'tonight', '2026-11-24'),
      line('x', 'overdue', '2026-11-20', 4),
      line('w', 'overdue', '2026-10-14', 41),
      line('a', 'tonight', '2026-11-24'),
    ]
    expect(byDue(plans).map((p) => p.name)).toEqual(['w', 'x', 'a', 'b', 'c', 'p'])
  })
})

it('takes lists as people write them', () => {
  expect(toLines(' one \n\n two')).toEqual(['one', 'two'])
})

describe('where a plan fits', () => {
  const drive = (name: string, fit: boolean, roomAfterBytes: number) => ({ name, fit, roomAfterBytes })
  it.each([
    [[], 'No drive is chosen yet.'],
    [[drive('A', true, 5), drive('B', true, 0)], 'Fits A, B.'],
    [[drive('A', true, 5), drive('B', false, -7), drive('C', false, 3)], 'Fits A; B is 7 B short, C does not take it now.'],
    [[drive('B', false, -7)], 'Fits none of its drives; B is 7 B short.'],
  ])('of %j: %s', (drives, words) => expect(fitWords(drives, (bytes) => `${bytes} B`)).toBe(words))
})
