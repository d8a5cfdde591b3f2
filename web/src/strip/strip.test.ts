import { describe, expect, it } from 'vitest'
import type { Disk, Partition } from '../api/types'
import { shareWidth, stripSegments, toOneScale } from './strip'

const partition = (number: number, startBytes: number, sizeBytes: number, toReadBytes: number, container = false): Partition => ({
  number,
  startBytes,
  sizeBytes,
  toReadBytes,
  container,
  type: '',
  name: '',
  fileSystem: '',
  usedBytes: null,
  freeBytes: null,
  hidden: false,
  readWhole: false,
  reason: '',
  leftOut: [],
})
const disk = (sizeBytes: number, partitions: Partition[]): Disk => ({
  id: '',
  name: '',
  model: '',
  serial: '',
  sizeBytes,
  bus: '',
  sectorBytes: 512,
  scheme: 'gpt',
  usedBytes: 0,
  attached: true,
  partitions,
  refusal: '',
})

describe('strips', () => {
  it('shares the whole width, whatever the sizes', () => {
    for (const sizes of [[1], [1, 1e12], [1, 1, 1, 1e9, 5e8], Array.from({ length: 80 }, (_, i) => i + 1)]) {
      const widths = shareWidth(sizes, 700)
      expect(widths.reduce((a, b) => a + b)).toBeCloseTo(700)
      expect(Math.min(...widths)).toBeGreaterThanOrEqual(Math.min(12, 700 / sizes.length) - 1e-9)
    }
  })

  it('draws partitions in disk order, gaps between them, and leaves containers out', () => {
    const segments = stripSegments(
      disk(1000, [partition(2, 600, 300, 300), partition(1, 0, 400, 100), partition(3, 600, 400, 0, true)]),
      1000,
    )
    expect(segments.map((s) => s.partition?.number ?? 'gap')).toEqual([1, 'gap', 2, 'gap'])
    expect(segments[0]).toMatchObject({ x: 0, width: 400, used: 100 })
    expect(segments[2]).toMatchObject({ x: 600, width: 300, used: 300 })
  })

  it('draws what is left out beside what is read', () => {
    const main = {
      ...partition(1, 0, 1000, 300),
      leftOut: [
        { what: 'page file', path: 'pagefile.sys', bytes: 150 },
        { what: 'swap', path: '', bytes: 50 },
      ],
    }
    expect(stripSegments(disk(1000, [main]), 500)[0]).toMatchObject({ used: 150, leftOut: 100 })
  })

  it('keeps disks to one scale and says which are drawn larger', () => {
    expect(toOneScale([2e12, 1e12, 5e8], 800, 40)).toEqual([
      { width: 800, enlarged: false },
      { width: 400, enlarged: false },
      { width: 40, enlarged: true },
    ])
  })
})
