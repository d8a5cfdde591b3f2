/**
 * A name for one more drive, made as the office names its drives: of those that end in a number, the row with most of them goes on. An
 * empty string where no two begin alike.
 */
export function nextName(names: readonly string[]): string {
  const rows = new Map<string, number[]>()
  for (const name of names) {
    const parts = /^(.*?)(\d{1,6})$/.exec(name)
    if (parts) rows.set(parts[1]!, [...(rows.get(parts[1]!) ?? []), Number(parts[2])])
  }
  const [stem, numbers] = [...rows].sort((a, b) => b[1].length - a[1].length)[0] ?? ['', []]
  return numbers.length > 1 ? `${stem}${Math.max(...numbers) + 1}` : ''
}
