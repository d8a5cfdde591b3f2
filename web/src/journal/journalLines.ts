import type { JournalLine } from '../api/types'

/** What lines are chosen by; an empty string for any. Days as "2026-11-24". */
export interface JournalChoice {
  text: string
  account: string
  action: string
  from: string
  to: string
}

/** Only what was chosen, as the server wants it. */
export function given(choice: JournalChoice): Partial<JournalChoice> {
  return Object.fromEntries(Object.entries(choice).filter(([, value]) => value.trim() !== ''))
}

export function exportPath(kind: 'csv' | 'jsonl', choice: JournalChoice): string {
  const query = new URLSearchParams(given(choice) as Record<string, string>).toString()
  return `/api/v1/journal/${kind}${query ? `?${query}` : ''}`
}

/** Lines under the day they were written, in the order given. */
export function byDay(lines: JournalLine[]): { day: string; lines: JournalLine[] }[] {
  const out: { day: string; lines: JournalLine[] }[] = []
  for (const line of lines) {
    const day = new Date(line.at)
      .toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' })
      .replace(',', '')
    if (out.at(-1)?.day !== day) out.push({ day, lines: [] })
    out.at(-1)!.lines.push(line)
  }
  return out
}
