import { describe, expect, it } from 'vitest'
import { shelfSentence } from './shelfWords'

const size = (bytes: number) => `${bytes} B`
const figures = { images: 31, disks: 11, copies: 52, storedBytes: 7, damaged: 0, twins: 0 }

describe('what the shelf holds, in a sentence', () => {
  it.each([
    [figures, '31 images of 11 disks in 52 copies, 7 B. No check found damage.'],
    [{ ...figures, images: 1, disks: 1, copies: 1 }, '1 image of 1 disk in 1 copy, 7 B. No check found damage.'],
    [{ ...figures, damaged: 1, twins: 1 }, '31 images of 11 disks in 52 copies, 7 B. One copy is damaged; its twin is sound.'],
    [{ ...figures, damaged: 1 }, '31 images of 11 disks in 52 copies, 7 B. One copy is damaged; no twin is sound.'],
    [{ ...figures, damaged: 3, twins: 3 }, '31 images of 11 disks in 52 copies, 7 B. 3 copies are damaged; each has a sound twin.'],
    [{ ...figures, damaged: 3, twins: 1 }, '31 images of 11 disks in 52 copies, 7 B. 3 copies are damaged; 1 of them has a sound twin.'],
    [{ ...figures, images: 0 }, 'No image yet.'],
  ])('%o', (given, wanted) => expect(shelfSentence(given, size, false)).toBe(wanted))
  it('says so when nothing matches', () => expect(shelfSentence({ ...figures, images: 0 }, size, true)).toBe('None of those.'))
})
