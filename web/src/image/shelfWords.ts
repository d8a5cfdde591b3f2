import type { ShelfFigures } from '../api/types'

const count = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`

/** What the shelf holds, in a sentence; `size` words bytes as the office likes them. */
export function shelfSentence(figures: ShelfFigures, size: (bytes: number) => string, filtered: boolean): string {
  if (!figures.images) return filtered ? 'None of those.' : 'No image yet.'
  const images = `${count(figures.images, 'image', 'images')} of ${count(figures.disks, 'disk', 'disks')}`
  const there = `${images} in ${count(figures.copies, 'copy', 'copies')}, ${size(figures.storedBytes)}.`
  if (!figures.damaged) return `${there} No check found damage.`
  const damaged = figures.damaged === 1 ? 'One copy is damaged' : `${figures.damaged} copies are damaged`
  const left = figures.damaged - figures.twins
  const twins =
    left === 0
      ? figures.damaged === 1
        ? 'its twin is sound'
        : 'each has a sound twin'
      : left === figures.damaged
        ? 'no twin is sound'
        : `${figures.twins} of them ${figures.twins === 1 ? 'has' : 'have'} a sound twin`
  return `${there} ${damaged}; ${twins}.`
}
