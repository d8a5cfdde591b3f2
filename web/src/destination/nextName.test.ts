import { expect, test } from 'vitest'
import { nextName } from './nextName'

test.each([
  [['PEG-1', 'PEG-2', 'PEG-3', 'CAIRN', 'KEY-1'], 'PEG-4'],
  [['A9', 'A10'], 'A11'],
  [['PEG-1', 'CAIRN'], ''],
  [['2019', '2020'], '2021'],
  [[], ''],
])('%j go on with %s', (names, next) => expect(nextName(names)).toBe(next))
