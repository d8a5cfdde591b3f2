/** Where a moment stands on a line from the first image to now, 0 to 100; all in milliseconds. */
export function placeOf(at: number, from: number, now: number): number {
  return now <= from ? 100 : Math.round(((at - from) / (now - from)) * 10_000) / 100
}

/** The firsts of months within the line; of a long one only so many that they can be read. */
export function monthMarks(from: number, now: number): { at: number; label: string }[] {
  const out: { at: number; label: string }[] = []
  const start = new Date(from)
  for (
    let at = new Date(start.getFullYear(), start.getMonth() + 1, 1);
    at.getTime() < now;
    at = new Date(at.getFullYear(), at.getMonth() + 1, 1)
  ) {
    out.push({
      at: at.getTime(),
      label: at.toLocaleDateString('en-GB', at.getMonth() === 0 ? { month: 'short', year: 'numeric' } : { month: 'short' }),
    })
  }
  const step = Math.ceil(out.length / 14)
  return out.filter((_, i) => i % step === 0)
}
