import { expect, it } from 'vitest'
import { toClock } from './clock'

it.each([
  ['18:30', '18:30'],
  ['1830', '18:30'],
  ['7.05', '07:05'],
  ['7', '07:00'],
  ['24:00', '24:00'],
  ['soon', 'soon'],
  ['', ''],
])('reads the time %s as %s', (typed, time) => expect(toClock(typed)).toBe(time))
