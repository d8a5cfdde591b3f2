import { describe, expect, it } from 'vitest'
import { devices, firstSentence, kindWord, nextStep, ratePath, stageWord } from './runWords'

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

  it('leads on from a run that failed', () => {
    const at = { diskId: 'd-1', imageId: 'i-1' }
    const kinds = ['capture', 'check', 'copy', 'restore', 'spare', 'stick', 'keep', 'prepare', 'discs']
    const ways = kinds.map((kind) => nextStep({ kind, ...at })?.to)
    expect(ways.slice(0, 3)).toEqual(['/make-image/d-1', '/images/i-1', '/images/i-1'])
    expect(ways.slice(3)).toEqual(['/restore', '/restore', '/rescue-media', '/rescue-media', '/prepare-drive', '/images/i-1'])
    expect(nextStep({ kind: 'capture', diskId: '', imageId: null })).toBeNull()
    expect(nextStep({ kind: 'check', diskId: '', imageId: null })).toBeNull()
  })

  it('tells the first sentence apart from the rest', () => {
    expect(firstSentence('PEG-3 became full at 4.2 GB. Make room on it.')).toEqual({
      first: 'PEG-3 became full at 4.2 GB.',
      rest: 'Make room on it.',
    })
    expect(firstSentence('One sentence.')).toEqual({ first: 'One sentence.', rest: '' })
    expect(firstSentence('')).toEqual({ first: '', rest: '' })
  })

  it('draws a rate from left to right on its own scale', () => {
    expect(ratePath([5], 100, 20)).toBe('')
    expect(ratePath([0, 10, 5], 100, 22)).toBe('M0.0 21.0L50.0 1.0L100.0 11.0')
    expect(ratePath([0, 0], 10, 10)).toBe('M0.0 9.0L10.0 9.0')
  })
})
