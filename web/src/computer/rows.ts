import type { Computer } from '../api/types'

const PADDING = 21
const LEAST = 84
const DISK = 46

/** Height of a computer's row in pixels: rows are placed before they are drawn, so it must hold for every computer. */
export function rowHeight(computer: Pick<Computer, 'disks' | 'warning'>): number {
  return Math.max(LEAST + (computer.warning ? 20 : 0), PADDING + computer.disks.length * DISK)
}
