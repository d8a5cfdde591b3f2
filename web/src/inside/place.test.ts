import { describe, expect, it } from 'vitest'
import { below, first, formatPlace, parsePlace, trail } from './place'

describe('a place in an image', () => {
  it.each([
    ['2:/Users/orla', 2, ['Users', 'orla']],
    ['0:', 0, []],
    ['12:/', 12, []],
    ['1:/a\nb/ c ', 1, ['a\nb', ' c ']],
  ])('%j is read', (text, partition, names) => {
    expect(parsePlace(text)).toEqual({ partition, names })
  })
  it.each(['', 'x', '2', '2:Users', '/2:', '99999:/'])('%j is none', (text) => {
    expect(parsePlace(text)).toBeNull()
  })
  it('is written as it is read, with its folders on the way', () => {
    const place = below({ partition: 2, names: ['Users'] }, 'orla', 'x')
    expect(formatPlace(place)).toBe('2:/Users/orla/x')
    expect(trail(place).map(formatPlace)).toEqual(['2:/', '2:/Users', '2:/Users/orla', '2:/Users/orla/x'])
  })
  it('begins at the largest partition that can be read', () => {
    const volume = (number: number, sizeBytes: number, fileSystem: string) => ({ number, sizeBytes, fileSystem })
    expect(first([volume(1, 5, 'vfat'), volume(2, 900, 'bitlocker'), volume(3, 50, 'ntfs')])).toEqual({ partition: 3, names: [] })
    expect(first([volume(2, 900, 'swap')])).toBeNull()
  })
})
