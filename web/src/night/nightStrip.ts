/** A stretch of the strip in pixels. */
export interface Stretch {
  x: number
  width: number
}

const HOUR = 3_600_000
/** Narrowest a bar is drawn, so that a quick image is seen. */
const LEAST = 2

/** Places moments of a night on a strip `width` pixels wide, from `from` to `to` (ISO times). */
export function stripScale(from: string, to: string, width: number) {
  const start = new Date(from).getTime()
  const perMilli = width / Math.max(1, new Date(to).getTime() - start)
  const at = (iso: string) => Math.min(width, Math.max(0, (new Date(iso).getTime() - start) * perMilli))
  return {
    at,
    stretch: (begin: string, end: string): Stretch => ({ x: at(begin), width: Math.max(LEAST, at(end) - at(begin)) }),
  }
}

/** Whole hours between two moments, every hour or every second one, so that labels `least` pixels wide do not touch. */
export function hourTicks(from: string, to: string, width: number, least: number): string[] {
  const start = Math.ceil(new Date(from).getTime() / HOUR)
  const end = Math.floor(new Date(to).getTime() / HOUR)
  const step = [1, 2, 3, 6, 12, 24].find((s) => (width / Math.max(1, end - start)) * s >= least) ?? 24
  const ticks: string[] = []
  for (let hour = start; hour <= end; hour++) {
    if (hour % step === 0) ticks.push(new Date(hour * HOUR).toISOString())
  }
  return ticks
}
