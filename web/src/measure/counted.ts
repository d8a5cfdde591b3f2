/** "1 disk", "3 disks". @param many of words whose plural is not theirs with an s: "disk has", "disks have" */
export function counted(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`
}
