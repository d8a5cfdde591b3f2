import { describe, expect, it } from 'vitest'
import { imagePieces, marks } from './damageStrip'

const FACTS = {
  sizeBytes: 1000,
  encrypted: false,
  lacks: { parts: [] },
  badSectors: [],
  parts: [],
  partitions: [
    {
      number: 2,
      startBytes: 200,
      sizeBytes: 700,
      readBytes: 350,
      label: 'main',
      fileSystem: 'ext4',
      held: true,
      density: [1000, 0, 500, 0, 1200],
    },
    { number: 1, startBytes: 100, sizeBytes: 100, readBytes: 100, label: 'boot', fileSystem: 'vfat', held: true, density: [] },
  ],
}

describe('the strip of an image', () => {
  it('lays partitions out in the order of the disk and in proportion', () => {
    const [boot, main] = imagePieces(FACTS, 800)
    expect([boot!.label, boot!.x, boot!.width, boot!.slices]).toEqual(['boot', 0, 100, []])
    expect([main!.label, main!.x, main!.width, main!.slices.map((s) => [s.x, s.density])]).toEqual([
      'main',
      100,
      700,
      [
        [100, 1],
        [240, 0],
        [380, 0.5],
        [520, 0],
        [660, 1],
      ],
    ])
  })

  it('marks damage where it lies, wide enough to be seen, and within the strip', () => {
    const pieces = imagePieces(FACTS, 800)
    expect(marks(pieces, [{ startBytes: 550, endBytes: 551, kind: 'damage' }])).toEqual([
      { x: 450, width: 3, kind: 'damage', startBytes: 550, endBytes: 551 },
    ])
    const [last] = marks(pieces, [{ startBytes: 899, endBytes: 900, kind: 'damage' }])
    expect(last!.x + last!.width).toBe(800)
    expect(marks(pieces, [{ startBytes: 150, endBytes: 300, kind: 'unreadable' }]).map((m) => [m.x, m.width])).toEqual([
      [50, 50],
      [100, 100],
    ])
  })

  it('marks what lies outside all partitions at the nearest end, and nothing for nothing', () => {
    const pieces = imagePieces(FACTS, 800)
    expect(marks(pieces, [{ startBytes: 0, endBytes: 50, kind: 'damage' }])[0]!.x).toBe(0)
    expect(marks(pieces, [{ startBytes: 950, endBytes: 990, kind: 'damage' }])[0]!.x).toBe(797)
    expect(marks(pieces, [{ startBytes: 5, endBytes: 5, kind: 'damage' }])).toEqual([])
  })
})
