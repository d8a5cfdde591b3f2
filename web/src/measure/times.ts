const DAY = 86_400_000

const WEEKDAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

/** Seconds in words as the core's formatter writes them (one table of cases holds both to the same): "40 s", "12 min", "1 h 5 min". */
export function formatSeconds(seconds: number): string {
  const whole = seconds > 0 ? Math.max(1, Math.round(seconds)) : 0
  if (whole < 90) return `${whole} s`
  const minutes = Math.round(whole / 60)
  if (minutes < 90) return `${minutes} min`
  return `${Math.floor(minutes / 60)} h${minutes % 60 ? ` ${minutes % 60} min` : ''}`
}

function two(number: number): string {
  return String(number).padStart(2, '0')
}

/** A range of seconds; one figure when both ends read the same. */
export function formatRange(low: number, high: number): string {
  const from = formatSeconds(low)
  const to = formatSeconds(high)
  if (from === to) return from
  const unit = to.slice(to.lastIndexOf(' '))
  return from.endsWith(unit) && !`${from}${to}`.includes(' h') ? `${from.slice(0, -unit.length)} to ${to}` : `${from} to ${to}`
}

/** Making one takes longer than all else on a page of a hundred moments. */
const CLOCKS = new Map<string, Intl.DateTimeFormat>()

function clockOf(zone: string): Intl.DateTimeFormat {
  const known = CLOCKS.get(zone)
  if (known) return known
  const made = new Intl.DateTimeFormat('en-GB', {
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
    timeZone: zone,
  })
  CLOCKS.set(zone, made)
  return made
}

/** A moment by the clock of a time zone; the browser's own without one. */
function parts(iso: string, zone?: string): { day: Date; time: string } {
  const at = new Date(iso)
  if (zone === undefined) {
    return { day: new Date(Date.UTC(at.getFullYear(), at.getMonth(), at.getDate())), time: `${two(at.getHours())}:${two(at.getMinutes())}` }
  }
  const found = clockOf(zone).formatToParts(at)
  const of = (type: string) => Number(found.find((each) => each.type === type)!.value)
  return { day: new Date(Date.UTC(of('year'), of('month') - 1, of('day'))), time: `${two(of('hour'))}:${two(of('minute'))}` }
}

function dayOf(day: Date): string {
  return `${WEEKDAYS[day.getUTCDay()]} ${day.getUTCDate()} ${MONTHS[day.getUTCMonth()]}`
}

/** "Tue 24 Nov, 02:14" in the browser's own time zone, or in another. */
export function formatMoment(iso: string, zone?: string): string {
  const { day, time } = parts(iso, zone)
  return `${dayOf(day)}, ${time}`
}

/** "18:30", by the clock of a time zone; the browser's own without one. */
export function formatClock(iso: string, zone?: string): string {
  return parts(iso, zone).time
}

/** A day without a time, "2026-11-24", as "Tue 24 Nov". */
export function formatDay(day: string): string {
  return dayOf(new Date(`${day}T12:00:00Z`))
}

/** The same with its year: "Tue 24 Nov 2026". */
export function formatFullDay(day: string): string {
  return `${formatDay(day)} ${day.slice(0, 4)}`
}

/** The day of a moment with its year, in the browser's own time zone: "Tue 24 Nov 2026". */
export function formatDate(iso: string): string {
  const { day } = parts(iso)
  return `${dayOf(day)} ${day.getUTCFullYear()}`
}

/** How long ago, in words. */
export function formatAge(iso: string, now: number): string {
  const age = now - new Date(iso).getTime()
  if (age < 90_000) return 'just now'
  if (age < 90 * 60_000) return `${Math.round(age / 60_000)} minutes ago`
  if (age < 36 * 3_600_000) return `${Math.round(age / 3_600_000)} hours ago`
  return `${Math.round(age / DAY)} days ago`
}
