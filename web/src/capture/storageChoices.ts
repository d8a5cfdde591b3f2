/** The four ways to store an image, in the words of the page. */
export const CHOICES = [
  { key: 'none', name: 'None', codec: 'none', level: null, note: 'every byte, free ones as zeros' },
  { key: 'fast', name: 'Fast', codec: 'zstd', level: 1, note: 'zstd 1' },
  { key: 'balanced', name: 'Balanced', codec: 'zstd', level: 3, note: 'zstd 3' },
  { key: 'small', name: 'Small', codec: 'zstd', level: 12, note: 'zstd 12' },
] as const

export type ChoiceKey = (typeof CHOICES)[number]['key']

/** Longest part an image may have; null is a single file. The second fits any FAT32 drive. */
export const SPLITS = [
  { bytes: null, name: 'one file' },
  { bytes: 4_000_000_000, name: 'parts of 4 GB' },
  { bytes: 1_000_000_000, name: 'parts of 1 GB' },
] as const
