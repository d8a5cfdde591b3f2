import { describe, expect, it } from 'vitest'
import type { JournalLine } from '../api/types'
import { byDay, exportPath, given } from './journalLines'

const NONE = { text: '', account: '', action: '', from: '', to: '' }
const line = (id: number, at: string) => ({ id, at }) as JournalLine

describe('the journal', () => {
  it('asks only for what was chosen', () => {
    expect(given({ ...NONE, text: '  ', action: 'note' })).toEqual({ action: 'note' })
    expect(exportPath('csv', NONE)).toBe('/api/v1/journal/csv')
    expect(exportPath('jsonl', { ...NONE, text: '50% of = PEG' })).toBe('/api/v1/journal/jsonl?text=50%25+of+%3D+PEG')
  })
  it('keeps lines under their day, in order', () => {
    const days = byDay([line(3, '2026-11-24T12:00:00'), line(2, '2026-11-24T09:00:00'), line(1, '2026-11-23T12:00:00')])
    expect(days.map((d) => d.lines.map((l) => l.id))).toEqual([[3, 2], [1]])
    expect(days[0]!.day).toBe('Tuesday 24 November 2026')
  })
})
