import type { DestinationLine } from '../api/types'

/** Heights within a bin, in pixels from the top of the drawing; the floor is at the drawing's height. */
export interface RoomLevels {
  rim: number
  /** Top of what lies there. */
  stored: number
  /** Top of what running captures will still take, above it. */
  promised: number
  reserve: number
}

/** Shortest bin that can be seen. */
const LEAST = 26
/** Room above the tallest rim. */
const HEADROOM = 10

/** Draws destinations as bins on one scale, `height` pixels down to the floor. */
export function layRoom(
  destinations: Pick<DestinationLine, 'capacityBytes' | 'freeBytes' | 'promisedBytes' | 'reserveBytes'>[],
  height: number,
): RoomLevels[] {
  const largest = Math.max(1, ...destinations.map((d) => d.capacityBytes))
  return destinations.map((d) => {
    const tall = Math.max(LEAST, (d.capacityBytes / largest) * (height - HEADROOM))
    const pixels = (bytes: number) => (Math.min(Math.max(0, bytes), d.capacityBytes) / Math.max(1, d.capacityBytes)) * tall
    const rim = height - tall
    const stored = height - pixels(d.capacityBytes - d.freeBytes)
    return { rim, stored, promised: Math.max(rim, stored - pixels(d.promisedBytes)), reserve: rim + pixels(d.reserveBytes) }
  })
}
