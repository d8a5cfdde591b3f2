import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { formatSize } from './sizes'

const cases = JSON.parse(readFileSync('../core/src/test/resources/sizes.json', 'utf8')) as { bytes: number; decimal: string; binary: string }[]

describe('formatSize', () => {
  it.each(cases)('writes $bytes as the core does', ({ bytes, decimal, binary }) => {
    expect(formatSize(bytes, 'decimal')).toBe(decimal)
    expect(formatSize(bytes, 'binary')).toBe(binary)
  })

  it('refuses what is no size', () => {
    for (const wrong of [-1, 1.5, NaN, 2 ** 53]) expect(() => formatSize(wrong, 'decimal')).toThrow(RangeError)
  })
})
