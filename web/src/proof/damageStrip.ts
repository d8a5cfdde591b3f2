import type { ImageFacts } from '../api/types'
import { shareWidth } from '../strip/strip'

/** A partition of an image on its strip, in pixels from the left end. */
export interface Piece {
  x: number
  width: number
  /** What is stored of it, slice by slice: where it is drawn and how dense it is, 0 to 1; empty where the image does not tell. */
  slices: { x: number; width: number; density: number }[]
  /** Whether it is in the image: one that was left out is not. */
  held: boolean
  label: string
  fileSystem: string
  startBytes: number
  sizeBytes: number
}

/** A stretch of the disk that is marked on the strip. */
export interface Mark {
  x: number
  width: number
  kind: 'damage' | 'unreadable'
  startBytes: number
  endBytes: number
}

const NARROWEST = 60
/** A mark narrower than this is not seen. */
const SEEN = 3

/** Lays an image's partitions out in proportion, none too narrow for its name. */
export function imagePieces(facts: ImageFacts, width: number): Piece[] {
  const inOrder = [...facts.partitions].sort((a, b) => a.startBytes - b.startBytes)
  const widths = shareWidth(
    inOrder.map((p) => p.sizeBytes),
    width,
    NARROWEST,
  )
  let x = 0
  return inOrder.map((p, i) => {
    const own = widths[i] ?? 0
    const slices = p.density.map((d, n) => ({
      x: x + (own * n) / p.density.length,
      width: own / p.density.length,
      density: Math.min(1, d / 1000),
    }))
    const piece = {
      x,
      width: own,
      slices: p.held ? slices : [],
      held: p.held,
      label: p.label,
      fileSystem: p.fileSystem,
      startBytes: p.startBytes,
      sizeBytes: p.sizeBytes,
    }
    x += own
    return piece
  })
}

/**
 * Where stretches of the disk lie on the strip: within the pieces they touch; what lies outside all partitions is marked at the nearest end
 * of one.
 */
export function marks(
  pieces: readonly Piece[],
  stretches: readonly { startBytes: number; endBytes: number; kind: Mark['kind'] }[],
): Mark[] {
  const out: Mark[] = []
  for (const stretch of stretches.filter((s) => s.endBytes > s.startBytes)) {
    const touched = pieces.filter((p) => stretch.startBytes < p.startBytes + p.sizeBytes && stretch.endBytes > p.startBytes)
    for (const piece of touched.length ? touched : nearest(pieces, stretch.startBytes)) {
      const at = (bytes: number) =>
        piece.x + piece.width * Math.min(1, Math.max(0, (bytes - piece.startBytes) / Math.max(1, piece.sizeBytes)))
      const from = Math.min(at(stretch.startBytes), piece.x + piece.width - SEEN)
      out.push({
        x: from,
        width: Math.max(SEEN, at(stretch.endBytes) - from),
        kind: stretch.kind,
        startBytes: stretch.startBytes,
        endBytes: stretch.endBytes,
      })
    }
  }
  return out
}

function nearest(pieces: readonly Piece[], bytes: number): Piece[] {
  const distance = (p: Piece) => Math.min(Math.abs(p.startBytes - bytes), Math.abs(p.startBytes + p.sizeBytes - bytes))
  return [...pieces].sort((a, b) => distance(a) - distance(b)).slice(0, 1)
}
