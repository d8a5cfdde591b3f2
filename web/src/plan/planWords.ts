import type { PlanLine, Weighed } from '../api/types'

/** Days of the week as the wire has them, with what a narrow button shows. */
export const WEEKDAYS = [
  { key: 'monday', short: 'Mo' },
  { key: 'tuesday', short: 'Tu' },
  { key: 'wednesday', short: 'We' },
  { key: 'thursday', short: 'Th' },
  { key: 'friday', short: 'Fr' },
  { key: 'saturday', short: 'Sa' },
  { key: 'sunday', short: 'Su' },
] as const

export const RHYTHMS = [
  { key: 'by-hand', label: 'only when asked for' },
  { key: 'weekly', label: 'on days of the week' },
  { key: 'days', label: 'every so many days' },
  { key: 'monthly', label: 'monthly' },
] as const

/** What a plan's due date means now. */
export function dueWords(line: Pick<PlanLine, 'state' | 'due' | 'overdueDays'>, day: (iso: string) => string): string {
  switch (line.state) {
    case 'paused':
      return 'paused'
    case 'by-hand':
      return 'when asked for'
    case 'tonight':
      return 'tonight'
    case 'overdue':
      return `${line.overdueDays} ${line.overdueDays === 1 ? 'day' : 'days'} overdue`
    default:
      return line.due ? day(line.due) : ''
  }
}

const ORDER = ['overdue', 'tonight', 'later', 'by-hand', 'paused']

/** What is due first comes first; what is due at the same time goes by name. */
export function byDue(plans: PlanLine[]): PlanLine[] {
  return [...plans].sort(
    (a, b) => ORDER.indexOf(a.state) - ORDER.indexOf(b.state) || (a.due ?? '').localeCompare(b.due ?? '') || a.name.localeCompare(b.name),
  )
}

/** Lines of a text field as a list, and back; empty lines are dropped. */
export const toLines = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '')

/** Which of a plan's drives take its image. */
export function fitWords(drives: Pick<Weighed, 'name' | 'fit' | 'roomAfterBytes'>[], size: (bytes: number) => string): string {
  if (!drives.length) return 'No drive is chosen yet.'
  const fit = drives.filter((d) => d.fit).map((d) => d.name)
  const not = drives
    .filter((d) => !d.fit)
    .map((d) => `${d.name} ${d.roomAfterBytes < 0 ? `is ${size(-d.roomAfterBytes)} short` : 'does not take it now'}`)
  return `${fit.length ? `Fits ${fit.join(', ')}` : 'Fits none of its drives'}${not.length ? `; ${not.join(', ')}` : ''}.`
}
