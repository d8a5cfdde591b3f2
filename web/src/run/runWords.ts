const KINDS: Record<string, string> = {
  capture: 'Capture',
  check: 'Check',
  copy: 'Copy',
  repair: 'Repair',
  restore: 'Restore',
  spare: 'Spare',
  stick: 'Rescue stick',
  keep: 'Stick’s image',
  discs: 'Discs',
  prepare: 'Preparing',
  rehearsal: 'Rehearsal',
}
const STAGES: Record<string, string> = {
  capturing: 'Reading, compressing, writing',
  checking: 'Reading back: digests and frames',
  restoring: 'Writing',
  comparing: 'Reading back, comparing',
  copying: 'Copying',
  repairing: 'Comparing with the sound copy, and repairing',
}

/** What a run does, as a noun. */
export function kindWord(kind: string): string {
  return KINDS[kind] ?? kind
}

/** What a run is doing right now. */
export function stageWord(stage: string): string {
  return STAGES[stage] ?? stage
}

/** What stopping a run leaves behind. */
export function stopMeans(kind: string): string {
  if (kind === 'capture') return 'What was written is kept, to be carried on or discarded; the disk is untouched.'
  if (kind === 'restore' || kind === 'spare')
    return 'The target is half written then, and no computer starts from it. It can be carried on; what was on it is gone.'
  if (kind === 'stick' || kind === 'prepare') return 'What was on it is gone, and what is on it then is not complete. Write it again.'
  if (kind === 'keep') return 'The stick is untouched; what was read of it so far is removed.'
  if (kind === 'discs') return 'What was laid out so far is removed; the image stays as it is.'
  if (kind === 'copy') return 'What was copied so far is removed; the image it is copied from stays as it is.'
  if (kind === 'repair') return 'What was repaired so far stays repaired; repair it again for the rest.'
  return 'Nothing was changed: the image stays as it is.'
}

/** Which devices a run uses, for the person who stands among them. */
export function devices(run: { kind: string; computer: string; disk: string; serial: string; destination: string }): {
  reads: string
  writes: string
} {
  const disk = `${run.computer} ${run.disk}${run.serial ? `, serial ${run.serial}` : ''}`
  if (run.kind === 'capture') return { reads: disk, writes: run.destination }
  if (run.kind === 'keep') return { reads: run.destination, writes: 'the computer Granary runs on' }
  if (run.kind === 'discs') return { reads: run.destination, writes: run.destination }
  if (run.kind === 'copy') return { reads: run.destination, writes: 'another destination' }
  if (run.kind === 'restore') return { reads: run.destination, writes: run.disk.replace(/^.* onto /, '') }
  if (run.kind === 'spare' || run.kind === 'stick' || run.kind === 'prepare')
    return { reads: run.kind === 'spare' ? run.computer : 'nothing', writes: run.destination }
  return run.kind === 'repair' ? { reads: 'a sound copy', writes: run.destination } : { reads: run.destination, writes: 'nothing' }
}

/**
 * The curve of a rate over time as an SVG path: newest at the right, scaled to its own largest value. Empty for fewer than two readings.
 */
export function ratePath(rates: readonly number[], width: number, height: number): string {
  const largest = Math.max(...rates, 1)
  if (rates.length < 2) return ''
  const x = (i: number) => ((i / (rates.length - 1)) * width).toFixed(1)
  const y = (rate: number) => (height - (rate / largest) * (height - 2) - 1).toFixed(1)
  return rates.map((rate, i) => `${i === 0 ? 'M' : 'L'}${x(i)} ${y(rate)}`).join('')
}

/** Where a person goes on from a run that failed or was stopped; null where nothing is to be done. */
export function nextStep(run: { kind: string; diskId: string; imageId: string | null }): { to: string; label: string } | null {
  const image = run.imageId ? `/images/${run.imageId}` : ''
  switch (run.kind) {
    case 'capture':
      return run.diskId ? { to: `/make-image/${run.diskId}`, label: 'Make it again' } : null
    case 'restore':
    case 'spare':
      return { to: '/restore', label: 'Carry on, or close it' }
    case 'stick':
    case 'keep':
      return { to: '/rescue-media', label: 'Go to the stick' }
    case 'prepare':
      return { to: '/prepare-drive', label: 'Prepare it again' }
    case 'check':
      return image ? { to: image, label: 'See what is sound' } : null
    default:
      return image ? { to: image, label: 'Go to the image' } : null
  }
}

/** The first sentence of a text, and what comes after it. */
export function firstSentence(text: string): { first: string; rest: string } {
  const end = /[.!?](?=\s+[A-Z0-9"“])/.exec(text)
  return end ? { first: text.slice(0, end.index + 1), rest: text.slice(end.index + 1).trim() } : { first: text, rest: '' }
}
