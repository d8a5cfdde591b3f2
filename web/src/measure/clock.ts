/** A time of day as people type it, "1830", "7.30" or "7", as "18:30"; what is no time stays as it is and is refused by the server. */
export function toClock(text: string): string {
  const found = /^\s*(\d{1,2})(?:\s*[:.h ]?\s*(\d{2}))?\s*$/.exec(text)
  if (!found || Number(found[1]) > 23 || Number(found[2] ?? 0) > 59) return text.trim()
  return `${found[1]!.padStart(2, '0')}:${found[2] ?? '00'}`
}
