import type { Weighed } from '../api/types'

/** A bin's parts, in pixels from the top of the drawing. Every part is a stretch from `top` to `bottom`. */
export interface Bin {
  rim: number
  floor: number
  stored: Stretch
  promised: Stretch
  /** The image at its low estimate. */
  low: Stretch
  /** From the low estimate to the high one. */
  doubt: Stretch
  /** What does not go in, above the rim; empty when all fits. */
  over: Stretch
  reserve: number
}

export interface Stretch {
  top: number
  bottom: number
}

/** Shortest bin and thinnest band that can be seen. */
const LEAST_BIN = 26
const LEAST_BAND = 3

/**
 * Draws destinations as bins on one scale.
 * @param height of the tallest bin in pixels
 * @param headroom pixels above it for what stands over a rim
 */
export function layBins(destinations: Weighed[], lowBytes: number, highBytes: number, height: number, headroom: number): Bin[] {
  const largest = Math.max(1, ...destinations.map((d) => d.capacityBytes))
  const floor = height + headroom
  return destinations.map((d) => {
    const tall = Math.max(LEAST_BIN, (d.capacityBytes / largest) * height)
    const pixels = (bytes: number) => (Math.max(0, bytes) / Math.max(1, d.capacityBytes)) * tall
    const rim = floor - tall
    const storedTop = floor - pixels(d.capacityBytes - d.freeBytes - d.ownBytes)
    const promisedTop = storedTop - pixels(d.promisedBytes)
    const lowTop = promisedTop - Math.max(LEAST_BAND, pixels(lowBytes))
    const highTop = Math.min(lowTop, promisedTop - pixels(highBytes))
    const clip = (y: number) => Math.max(rim, y)
    return {
      rim,
      floor,
      stored: { top: clip(storedTop), bottom: floor },
      promised: { top: clip(promisedTop), bottom: clip(storedTop) },
      low: { top: clip(lowTop), bottom: clip(promisedTop) },
      doubt: { top: clip(highTop), bottom: clip(lowTop) },
      over: { top: Math.max(4, Math.min(rim, highTop)), bottom: rim },
      reserve: rim + pixels(Math.min(d.reserveBytes, d.capacityBytes)),
    }
  })
}
