import type { Computer } from '../api/types'

export type Order = 'name' | 'cover' | 'used' | 'capacity'
export const ORDERS: { key: Order; label: string }[] = [
  { key: 'name', label: 'by name' },
  { key: 'cover', label: 'least covered first' },
  { key: 'used', label: 'most to read first' },
  { key: 'capacity', label: 'largest first' },
]

/** The computers in the order asked for; alike ones by name. The list itself is left as it is. */
export function ordered(computers: Computer[], order: Order): Computer[] {
  const byName = (a: Computer, b: Computer) => a.name.localeCompare(b.name, 'en')
  const sum = (c: Computer, of: (d: Computer['disks'][number]) => number) => c.disks.reduce((total, disk) => total + of(disk), 0)
  // never imaged, then damaged, then the oldest image
  const cover = (c: Computer) => (!c.lastImageAt ? -2 : !c.lastImageSound ? -1 : Date.parse(c.lastImageAt))
  const keys: Record<Order, (a: Computer, b: Computer) => number> = {
    name: byName,
    cover: (a, b) => cover(a) - cover(b),
    used: (a, b) => sum(b, (d) => d.usedBytes) - sum(a, (d) => d.usedBytes),
    capacity: (a, b) => sum(b, (d) => d.sizeBytes) - sum(a, (d) => d.sizeBytes),
  }
  return [...computers].sort((a, b) => keys[order](a, b) || byName(a, b))
}
