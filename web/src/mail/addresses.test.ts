import { expect, it } from 'vitest'
import { toAddresses } from './addresses'

it('takes addresses as people write them', () => {
  expect(toAddresses('a@b.example, c@d.example;e@f.example')).toEqual(['a@b.example', 'c@d.example', 'e@f.example'])
  expect(toAddresses('the office')).toEqual(['the office'])
  expect(toAddresses('  ')).toEqual([])
})
