import { expect, test } from 'vitest'
import { coverSentence, proofWords, risks } from './coverReport'

const since = '2026-08-24T20:00:00Z'

test('the cover of an office is told in a sentence whose figures add up', () => {
  expect(coverSentence([])).toBe('There are no disks yet.')
  expect(coverSentence([{ state: 'covered', since }])).toBe('1 disk: 1 is covered.')
  const states = ['covered', 'due', 'unplanned', 'late', 'late', 'partly'].map((state) => ({ state, since }))
  expect(coverSentence([...states, { state: 'never', since: null }, { state: 'late', since: null }])).toBe(
    '8 disks: 3 are covered, 2 are late, 1 is covered in part, 2 have no sound image.',
  )
})

test('proof is told in words, and that it is old', () => {
  expect([0, 1, 2, 3, 4, 9].map((level) => proofWords(level, false))).toEqual([
    'not proven',
    'complete',
    'sound',
    'readable',
    'rehearsed',
    'booted',
  ])
  expect([proofWords(3, true), proofWords(0, true)]).toEqual(['readable, long ago', 'not proven'])
})

test('chores are no risks', () => {
  expect(risks([{ kind: 'damaged' }, { kind: 'release' }, { kind: 'silent' }, { kind: 'files' }]).map((t) => t.kind)).toEqual([
    'damaged',
    'files',
  ])
})
