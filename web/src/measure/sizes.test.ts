import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { formatSize, parseSize } from './sizes'

const cases = JSON.parse(readFileSync('../core/src/test/resources/sizes.json', 'utf8')) as {
  bytes: number
  decimal: string
  binary: string
}[]

describe('formatSize', () => {
  it.each(cases)('writes $bytes as the core does', ({ bytes, decimal, binary }) => {
    expect(formatSize(bytes, 'decimal')).toBe(decimal)
    expect(formatSize(bytes, 'binary')).toBe(binary)
  })

  it('refuses what is no size', () => {
    for (const wrong of [-1, 1.5, NaN, 2 ** 53]) expect(() => formatSize(wrong, 'decimal')).toThrow(RangeError)
  })
})

describe('parseSize', () => {
  it.each([
    ['500 GB', 500_000_000_000],
    ['1TB', 1_000_000_000_000],
    ['465.7 GiB', 500_041_567_437],
    ['1,5 mb', 1_500_000],
    ['1 000 204 886 016', 1_000_204_886_016],
    ['512', 512],
  ])('reads %s', (text, bytes) => expect(parseSize(text)).toBe(bytes))

  it.each(['', '0', 'many', '5 apples', '-3 GB', '99 EB', '1.2.3 GB'])('refuses "%s"', (text) => expect(parseSize(text)).toBeNull())

  it('reads back what is written, as near as three digits tell', () => {
    for (const { bytes } of cases.filter((c) => c.bytes > 0 && c.bytes < 2 ** 52)) {
      for (const reading of ['decimal', 'binary'] as const) {
        const back = parseSize(formatSize(bytes, reading))!
        expect(Math.abs(back - bytes) / bytes).toBeLessThan(0.006)
      }
    }
  })
})
