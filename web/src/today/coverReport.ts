/** Kinds of what needs somebody that put a computer's return at risk; the others are chores. */
const RISKS = new Set(['damaged', 'missing', 'never', 'unproven', 'failed', 'overdue', 'places', 'files', 'medium', 'journal', 'copy'])
const PROOF = ['not proven', 'complete', 'sound', 'readable', 'rehearsed', 'booted']

export const risks = <T extends { kind: string }>(todos: readonly T[]): T[] => todos.filter((t) => RISKS.has(t.kind))

/** @param level 0 for none, and up to 5 */
export function proofWords(level: number, stale: boolean): string {
  const word = PROOF[level] ?? PROOF.at(-1)!
  return level > 0 && stale ? `${word}, long ago` : word
}

/** "11 disks: 8 are covered as planned, 2 are late, 1 has no sound image." */
export function coverSentence(cover: readonly { state: string; since: string | null }[]): string {
  if (!cover.length) return 'There are no disks yet.'
  const disks = `${cover.length} ${cover.length === 1 ? 'disk' : 'disks'}`
  const none = cover.filter((c) => !c.since).length
  const late = cover.filter((c) => c.since && c.state === 'late').length
  const partly = cover.filter((c) => c.since && c.state === 'partly').length
  const well = cover.length - none - late - partly
  const are = (count: number, words: string) => (count ? [`${count} ${count === 1 ? 'is' : 'are'} ${words}`] : [])
  const has = none ? [`${none} ${none === 1 ? 'has' : 'have'} no sound image`] : []
  return `${disks}: ${[...are(well, 'covered'), ...are(late, 'late'), ...are(partly, 'covered in part'), ...has].join(', ')}.`
}
