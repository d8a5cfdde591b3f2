import { officeDate } from './officeClock'

const two = (number: number) => String(number).padStart(2, '0')

/** The day of a moment where the person is, as it goes over the wire: `2026-03-01`. */
export const dayOf = (at: Date): string => `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`

/** The other way round: its noon, so that no change of a clock makes it another day. */
export const dayAt = (day: string): Date => new Date(`${day}T12:00:00`)

/** The noon of a day where the person is, in UTC; of today the present moment, since noon may be still to come. */
export const noonOf = (day: string, now = officeDate()): string => (day === dayOf(now) ? now : dayAt(day)).toISOString()

/** So many days before today by the office's clock, whatever its clock was changed by in between. */
export const daysAgo = (days: number): string => {
  const now = officeDate()
  return dayOf(new Date(now.getFullYear(), now.getMonth(), now.getDate() - days, 12))
}

/** Today by the office's clock. */
export const today = (): string => dayOf(officeDate())
