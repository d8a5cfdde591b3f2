import { expect, test } from 'vitest'
import { startsOf } from './startsOf'

test('the newest test with a computer tells whether a medium starts it', () => {
  const at = '2026-09-01T10:00:00Z'
  const computers = ['TRIPOD', 'DATUM', 'PLUMB', 'GNOMON'].map((name) => ({ name, bootKey: 'F12' }))
  const tests = [
    { computer: 'PLUMB', at, started: false, stands: true },
    { computer: 'PLUMB', at, started: true, stands: true },
    { computer: 'TRIPOD', at, started: true, stands: true },
    { computer: 'DATUM', at, started: true, stands: false },
    { computer: 'GONE', at, started: true, stands: true },
  ]
  expect(startsOf(tests, computers).map((r) => [r.name, r.state, r.at !== null])).toEqual([
    ['PLUMB', 'does-not', true],
    ['TRIPOD', 'starts', true],
    ['DATUM', 'before-written', true],
    ['GNOMON', 'not-tried', false],
  ])
})
