import { shareWidth } from '../strip/strip'

/** A partition as a layout has it, in bytes. */
export interface Place {
  number: number
  start: number
  bytes: number
  used: number
  name: string
  hidden: boolean
  note: string
}

/** A partition to be made in what stays free; 0 bytes for all of it. */
export interface NewPartition {
  name: string
  fileSystem: string
  bytes: number
}

/** A piece of a strip in pixels; `place` is null for what nothing uses. */
export interface Piece {
  x: number
  width: number
  used: number
  place: Place | null
}

/** Narrowest a partition is drawn, so that its name stands below it. */
const NARROWEST = 62
/** A stretch shorter than this share of the disk is not drawn: it only brings the next partition to its boundary. */
const DRAWN_GAP = 0.02

/** Lays partitions and free stretches out on a strip, in proportion, none too narrow to be seen. The sum of widths is the width. */
export function pieces(places: readonly Place[], diskBytes: number, width: number): Piece[] {
  const parts: { bytes: number; place: Place | null }[] = []
  let at = 0
  for (const place of [...places].sort((a, b) => a.start - b.start)) {
    if (place.start - at > diskBytes * DRAWN_GAP) parts.push({ bytes: place.start - at, place: null })
    parts.push({ bytes: place.bytes, place })
    at = place.start + place.bytes
  }
  if (diskBytes - at > diskBytes * DRAWN_GAP) parts.push({ bytes: diskBytes - at, place: null })
  const widths = shareWidth(
    parts.map((p) => p.bytes),
    width,
    NARROWEST,
  )
  let x = 0
  return parts.map(({ place, bytes }, i) => {
    const own = widths[i] ?? 0
    const piece = { x, width: own, used: place ? own * Math.min(1, place.used / Math.max(1, bytes)) : 0, place }
    x += own
    return piece
  })
}

/** What a partition's end may be drawn to: its bounds in bytes. */
export interface Handle {
  number: number
  min: number
  max: number
}

const MIB = 1048576

/** A size within bounds, in whole MiB unless it is a bound. */
export function within(bytes: number, min: number, max: number): number {
  if (bytes >= max) return max
  return Math.max(min, Math.floor(bytes / MIB) * MIB)
}

/** The places as they would be were one partition this large: what lies behind it moves along until a free stretch takes up the rest. */
export function resized(places: readonly Place[], number: number, bytes: number): Place[] {
  const inOrder = [...places].sort((a, b) => a.start - b.start)
  const at = inOrder.findIndex((p) => p.number === number)
  const own = inOrder[at]
  if (!own) return inOrder
  const out = [...inOrder.slice(0, at), { ...own, bytes, used: Math.min(own.used, bytes) }]
  let end = own.start + bytes
  for (const next of inOrder.slice(at + 1)) {
    const start = Math.max(next.start, end)
    out.push({ ...next, start })
    end = start + next.bytes
  }
  return out
}

/** Bytes at a place of a slider that runs over 1000 steps from `min` to `max`; whole MiB. */
export function sliderBytes(step: number, min: number, max: number): number {
  return step >= 1000 ? max : within(min + ((max - min) * step) / 1000, min, max)
}
