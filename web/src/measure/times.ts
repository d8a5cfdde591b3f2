const DAY = 86_400_000

/** Seconds in words a person would use: "40 s", "12 min", "1 h 05". */
export function formatSeconds(seconds: number): string {
  const whole = Math.max(1, Math.round(seconds))
  if (whole < 90) return `${whole} s`
  const minutes = Math.round(whole / 60)
  return minutes < 90 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`
}

/** A range of seconds; one figure when both ends read the same. */
export function formatRange(low: number, high: number): string {
  const from = formatSeconds(low)
  const to = formatSeconds(high)
  if (from === to) return from
  const [a, unitA] = from.split(' ')
  const [, unitB] = to.split(' ')
  return unitA === unitB && from.split(' ').length === 2 ? `${a} to ${to}` : `${from} to ${to}`
}

/** "Tue 24 Nov, 02:14" in the browser's own time zone. */
export function formatMoment(iso: string): string {
  const at = new Date(iso)
  const day = at.toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric', month: 'short' }).replace(',', '')
  return `${day}, ${at.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}`
}

/** "18:30", by the clock of a time zone. */
export function formatClock(iso: string, zone: string): string {
  return new Date(iso).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', timeZone: zone })
}

/** A day without a time, "2026-11-24", as "Tue 24 Nov". */
export function formatDay(day: string): string {
  return new Date(`${day}T12:00:00Z`).toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' }).replace(',', '')
}

/** How long ago, in words. */
export function formatAge(iso: string, now: number): string {
  const age = now - new Date(iso).getTime()
  if (age < 90_000) return 'just now'
  if (age < 90 * 60_000) return `${Math.round(age / 60_000)} minutes ago`
  if (age < 36 * 3_600_000) return `${Math.round(age / 3_600_000)} hours ago`
  return `${Math.round(age / DAY)} days ago`
}
