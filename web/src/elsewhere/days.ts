import { officeDate } from '../measure/officeClock'

/** The day of a moment where the person is, as a date field takes it: `2026-03-01`. */
export function dayOf(moment: string): string {
  const at = new Date(moment)
  const two = (n: number) => String(n).padStart(2, '0')
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`
}

/** The noon of a day where the person is, in UTC; of today the present moment, since noon may be still to come. */
export function noonOf(day: string, now = officeDate()): string {
  return day === dayOf(now.toISOString()) ? now.toISOString() : new Date(`${day}T12:00:00`).toISOString()
}
