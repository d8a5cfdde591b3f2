import { expect, it } from 'vitest'
import { editsOver } from './editsOver'

const BEGUN = { name: 'LEDGER', note: '', days: ['Mon'], keep: { last: 1 } }

it.each([
  ['nothing', BEGUN, { ...BEGUN, note: 'theirs' }, { ...BEGUN, note: 'theirs' }],
  ['another field', { ...BEGUN, note: 'mine' }, { ...BEGUN, name: 'LEDGER-2' }, { ...BEGUN, name: 'LEDGER-2', note: 'mine' }],
  ['the same field', { ...BEGUN, note: 'mine' }, { ...BEGUN, note: 'theirs' }, { ...BEGUN, note: 'mine' }],
  ['a list', { ...BEGUN, days: ['Tue'] }, { ...BEGUN, days: [], note: 'theirs' }, { ...BEGUN, days: ['Tue'], note: 'theirs' }],
  ['a field to nothing', { ...BEGUN, name: '' }, { ...BEGUN, keep: { last: 2 } }, { ...BEGUN, name: '', keep: { last: 2 } }],
])('keeps what was edited and takes the rest: %s', (_, edited, saved, kept) => expect(editsOver(BEGUN, edited, saved)).toEqual(kept))
