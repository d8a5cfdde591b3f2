import { expect, test } from 'vitest'
import { readChoice, writeChoice } from './useInAddress'

const FIRST = { text: '', show: 'all', page: 0 }

test('what a page is narrowed to goes into its address and comes back', () => {
  for (const chosen of [FIRST, { ...FIRST, text: '50 % of PEG-2' }, { text: 'a', show: 'damaged', page: 3 }, { ...FIRST, page: 12 }])
    expect(readChoice(writeChoice({}, FIRST, chosen), FIRST)).toEqual(chosen)
  expect(writeChoice({ disk: 'd-1', page: '4' }, FIRST, { ...FIRST, text: 'x' })).toEqual({ disk: 'd-1', text: 'x' })
})

test('nonsense in an address is as if it were not there', () => {
  expect(readChoice({ page: '-1', show: ['damaged', 'x'], other: 'y' }, FIRST)).toEqual({ text: '', show: 'damaged', page: 0 })
  expect(readChoice({ page: '1e9', text: null }, FIRST)).toEqual(FIRST)
})
