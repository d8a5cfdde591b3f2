/** Where a folder or file is in an image: a partition's number, and the names from the topmost folder down. */
export interface Place {
  partition: number
  names: string[]
}

/** "2:/Users/orla", as the server has it; null for anything else. */
export function parsePlace(text: string): Place | null {
  const found = /^([0-9]{1,4}):(\/[^]*)?$/.exec(text)
  if (!found) return null
  return { partition: Number(found[1]), names: (found[2] ?? '').split('/').filter((name) => name !== '') }
}

export function formatPlace(place: Place): string {
  return `${place.partition}:/${place.names.join('/')}`
}

export function below(place: Place, ...names: string[]): Place {
  return { partition: place.partition, names: [...place.names, ...names] }
}

/** The folders on the way, from the topmost down to the place itself. */
export function trail(place: Place): Place[] {
  return Array.from({ length: place.names.length + 1 }, (_, i) => ({ partition: place.partition, names: place.names.slice(0, i) }))
}

/** File systems whose files are read; others can be served as a disk. */
export const READ = ['ext2', 'ext3', 'ext4', 'ntfs', 'vfat', 'exfat']

/** What is to be opened first: the largest partition whose files are read. */
export function first(volumes: { number: number; sizeBytes: number; fileSystem: string }[]): Place | null {
  const readable = volumes.filter((each) => READ.includes(each.fileSystem)).sort((one, other) => other.sizeBytes - one.sizeBytes)
  return readable[0] ? { partition: readable[0].number, names: [] } : null
}
