import { describe, expect, it } from 'vitest'
import { devices, kindWord, ratePath, stageWord } from './runWords'

describe('words for runs', () => {
  it('names the devices that are read and written, by what the run does', () => {
    const run = { kind: 'capture', computer: 'DATUM', disk: 'disk 1', serial: 'S-1', destination: 'PEG-1' }
    expect(devices(run)).toEqual({ reads: 'DATUM disk 1, serial S-1', writes: 'PEG-1' })
    expect(devices({ ...run, kind: 'check' })).toEqual({ reads: 'PEG-1', writes: 'nothing' })
    expect(devices({ ...run, kind: 'repair' }).writes).toBe('PEG-1')
    expect(devices({ ...run, kind: 'copy' }).reads).toBe('PEG-1')
    expect(devices({ ...run, kind: 'restore', disk: 'system disk onto Spare 1' })).toEqual({ reads: 'PEG-1', writes: 'Spare 1' })
  })

  it('shows a word it does not know as it is', () => {
    expect([kindWord('repair'), kindWord('other'), stageWord('comparing'), stageWord('other')]).toEqual([
      'Repair',
      'other',
      'Reading back, comparing',
      'other',
    ])
  })

  it('draws a rate from left to right on its own scale', () => {
    expect(ratePath([5], 100, 20)).toBe('')
    expect(ratePath([0, 10, 5], 100, 22)).toBe('M0.0 21.0L50.0 1.0L100.0 11.0')
    expect(ratePath([0, 0], 10, 10)).toBe('M0.0 9.0L10.0 9.0')
  })
})
