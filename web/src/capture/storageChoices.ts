/** A way to compress. `level` null is the codec's usual one. */
export interface StoringChoice {
  key: string
  name: string
  codec: string
  level: number | null
  note: string
}

/** The five ways to store an image, in the words of the page. */
export const CHOICES: readonly StoringChoice[] = [
  { key: 'raw', name: 'Raw disk', codec: 'none', level: 0, note: 'every byte, free ones as zeros' },
  { key: 'none', name: 'As it is', codec: 'stored', level: 0, note: 'used blocks, not compressed' },
  { key: 'fast', name: 'Quick', codec: 'zstd', level: 1, note: 'zstd 1' },
  { key: 'balanced', name: 'Everyday', codec: 'zstd', level: 3, note: 'zstd 3' },
  { key: 'small', name: 'Tight', codec: 'zstd', level: 12, note: 'zstd 12' },
]

/** The five ways, and the one a plan asks for when it is none of them. */
export function choicesWith(codec: string, level: number): readonly StoringChoice[] {
  const own = CHOICES.some((c) => c.codec === codec && c.level === level)
  return own ? CHOICES : [...CHOICES, { key: 'own', name: `${codec} ${level}`, codec, level, note: 'as the plan says' }]
}

/** Longest part an image may have; null is a single file. The second fits any FAT32 drive. */
export const SPLITS = [
  { bytes: null, name: 'one file' },
  { bytes: 4_000_000_000, name: 'parts of 4 GB' },
  { bytes: 1_000_000_000, name: 'parts of 1 GB' },
] as const
