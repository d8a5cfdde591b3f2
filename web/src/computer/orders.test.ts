import { describe, expect, it } from 'vitest'
import type { Computer } from '../api/types'
import { ordered, ORDERS } from './orders'
import { rowHeight } from './rows'

const disk = (sizeBytes: number, usedBytes: number) => ({ sizeBytes, usedBytes }) as Computer['disks'][number]
const computer = (name: string, lastImageAt: string | null, lastImageSound: boolean, ...disks: Computer['disks']) =>
  ({ name, lastImageAt, lastImageSound, disks, warning: '' }) as unknown as Computer

const OFFICE = [
  computer('B', '2026-11-01T00:00:00Z', true, disk(10, 9), disk(5, 1)),
  computer('A', null, false, disk(14, 3)),
  computer('D', '2026-11-20T00:00:00Z', false, disk(15, 0)),
  computer('C', '2026-10-01T00:00:00Z', true),
]

describe('orders', () => {
  it.each([
    ['name', 'ABCD'],
    ['cover', 'ADCB'],
    ['used', 'BACD'],
    ['capacity', 'BDAC'],
  ] as const)('%s', (order, expected) => {
    expect(
      ordered(OFFICE, order)
        .map((c) => c.name)
        .join(''),
    ).toBe(expected)
  })

  it('leaves the list itself alone, and all orders can be chosen', () => {
    ordered(OFFICE, 'name')
    expect(OFFICE[0]!.name).toBe('B')
    expect(ORDERS.map((o) => o.key)).toEqual(['name', 'cover', 'used', 'capacity'])
  })
})

describe('row heights', () => {
  it('grow with the disks and make room for a warning', () => {
    const heights = [0, 1, 2, 5].map((n) => rowHeight({ disks: Array(n).fill(disk(1, 1)), warning: '' }))
    expect(heights).toEqual([84, 84, 113, 251])
    expect(rowHeight({ disks: [], warning: 'x' })).toBe(104)
  })
})
