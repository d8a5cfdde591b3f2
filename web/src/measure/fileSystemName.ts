const NAMES: Record<string, string> = { exfat: 'exFAT', ntfs: 'NTFS', fat32: 'FAT32' }

/** A file system's name as it is usually written, from its word on the wire. */
export const fileSystemName = (word: string): string => NAMES[word] ?? word
