/** The two ways a size can be read; a page shows one at a time and never mixes them. */
export type Reading = 'decimal' | 'binary'

const UNITS: Record<Reading, readonly string[]> = {
  decimal: ['B', 'kB', 'MB', 'GB', 'TB', 'PB', 'EB'],
  binary: ['B', 'KiB', 'MiB', 'GiB', 'TiB', 'PiB', 'EiB'],
}

/**
 * A byte count as the core's formatter writes it (one table of cases holds both to the same).
 * @param bytes a whole number of bytes, 0 or more, that a number holds exactly
 * @throws RangeError for anything else
 */
export function formatSize(bytes: number, reading: Reading): string {
  const { unit, unitBytes, power } = unitFor(bytes, reading)
  return `${rounded(bytes / unitBytes, power)} ${unit}`
}

/** The unit a byte count is written in, for figures that share one, such as along an axis. */
export function unitFor(bytes: number, reading: Reading): { unit: string; unitBytes: number; power: number } {
  if (!Number.isSafeInteger(bytes) || bytes < 0) throw new RangeError(`not a size: ${bytes}`)
  const base = reading === 'decimal' ? 1000 : 1024
  let power = 0
  while (power < 6 && Number(rounded(bytes / base ** power, power)) >= base) power++
  return { unit: UNITS[reading][power]!, unitBytes: base ** power, power }
}

function rounded(value: number, power: number): string {
  const digits = power === 0 ? 0 : value < 9.995 ? 2 : value < 99.95 ? 1 : 0
  const scale = 10 ** digits
  // toFixed rounds halves by their binary value; sizes round them up
  return (Math.floor(value * scale + 0.5 + 1e-9) / scale).toFixed(digits)
}

/**
 * Bytes of a size as a person writes it: a number and a unit in either reading, `500 GB` or `465.7 GiB`; without a unit it is bytes.
 * @returns null when it is none, or not a whole number of bytes that a number holds exactly
 */
export function parseSize(text: string): number | null {
  const found = /^([0-9]+(?:[.,][0-9]+)?)\s*([A-Za-z]*)$/.exec(text.trim().replace(/(?<=\d)[\s ](?=\d)/g, ''))
  if (!found) return null
  const unit = (found[2] || 'B').toLowerCase()
  for (const reading of ['decimal', 'binary'] as const) {
    const power = UNITS[reading].findIndex((each) => each.toLowerCase() === unit)
    if (power < 0) continue
    const bytes = Math.round(Number(found[1]!.replace(',', '.')) * (reading === 'decimal' ? 1000 : 1024) ** power)
    return Number.isSafeInteger(bytes) && bytes > 0 ? bytes : null
  }
  return null
}
