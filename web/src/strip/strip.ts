import type { Disk, Partition } from '../api/types'

/** A piece of a strip, in pixels from its left end. `used` is how much of its width is drawn as used. */
export interface Segment {
  x: number
  width: number
  used: number
  /** How much, right of the used part, is drawn as left out: in use, and stored as zeros. */
  leftOut: number
  kind: 'partition' | 'gap'
  partition: Partition | null
}

/** Narrowest a partition is drawn unless told otherwise, so that hidden ones are seen. */
const NARROWEST = 12
/** Unpartitioned stretches shorter than this share of the disk are not drawn. */
const DRAWN_GAP = 0.01

/**
 * Lays a disk's partitions and gaps out on a strip. In proportion, but no partition narrower than can be seen; what small ones gain, large
 * ones give.
 * @param width of the strip in pixels, more than 0
 * @param narrowest a partition is drawn, in pixels
 */
export function stripSegments(disk: Disk, width: number, narrowest = NARROWEST): Segment[] {
  const pieces: { size: number; partition: Partition | null }[] = []
  let at = 0
  const inOrder = disk.partitions.filter((p) => !p.container).sort((a, b) => a.startBytes - b.startBytes)
  for (const partition of inOrder) {
    if (partition.startBytes - at > disk.sizeBytes * DRAWN_GAP) pieces.push({ size: partition.startBytes - at, partition: null })
    pieces.push({ size: partition.sizeBytes, partition })
    at = partition.startBytes + partition.sizeBytes
  }
  if (disk.sizeBytes - at > disk.sizeBytes * DRAWN_GAP) pieces.push({ size: disk.sizeBytes - at, partition: null })
  const widths = shareWidth(
    pieces.map((p) => p.size),
    width,
    narrowest,
  )
  let x = 0
  return pieces.map(({ partition }, i) => {
    const own = widths[i] ?? 0
    const segment: Segment = {
      x,
      width: own,
      kind: partition ? 'partition' : 'gap',
      partition,
      used: partition ? own * Math.min(1, partition.toReadBytes / Math.max(1, partition.sizeBytes)) : 0,
      leftOut: partition ? own * Math.min(1, partition.leftOut.reduce((sum, l) => sum + l.bytes, 0) / Math.max(1, partition.sizeBytes)) : 0,
    }
    x += own
    return segment
  })
}

/** Shares a width in proportion to sizes, none narrower than `narrowest` as long as there is room for that. The sum is the width. */
export function shareWidth(sizes: number[], width: number, narrowest = NARROWEST): number[] {
  const least = Math.min(narrowest, width / Math.max(1, sizes.length))
  const fixed = new Set<number>()
  for (;;) {
    const rest = width - fixed.size * least
    const total = sizes.reduce((sum, size, i) => (fixed.has(i) ? sum : sum + size), 0)
    const narrow = sizes.findIndex((size, i) => !fixed.has(i) && (size / total) * rest < least)
    if (narrow < 0) return sizes.map((size, i) => (fixed.has(i) ? least : (size / total) * rest))
    fixed.add(narrow)
  }
}

/** Width of each disk's strip so that all are on one scale, none narrower than `least` pixels; those are marked as drawn larger. */
export function toOneScale(sizes: number[], width: number, least: number): { width: number; enlarged: boolean }[] {
  const largest = Math.max(...sizes, 1)
  return sizes.map((size) => {
    const exact = (size / largest) * width
    return { width: Math.max(least, exact), enlarged: exact < least }
  })
}
