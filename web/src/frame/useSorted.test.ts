import { describe, expect, it } from 'vitest'
import { useSorted } from './useSorted'

describe('a table sorted by its columns', () => {
  const rows = [
    { name: 'disk 10', bytes: 5 },
    { name: 'Disk 2', bytes: null },
    { name: 'disk 1', bytes: 7 },
    { name: 'anvil', bytes: 5 },
  ]
  const table = () =>
    useSorted(() => rows, { name: (r) => r.name, bytes: (r) => r.bytes }, { by: 'bytes', down: true })
  const names = (t: ReturnType<typeof table>) => t.sorted.value.map((r) => r.name)

  it('keeps the order of equals, and puts what has nothing last either way', () => {
    const t = table()
    expect(names(t)).toEqual(['disk 1', 'disk 10', 'anvil', 'Disk 2'])
    t.by('bytes')
    expect(names(t)).toEqual(['disk 10', 'anvil', 'disk 1', 'Disk 2'])
  })

  it('reads figures in texts by their value, and turns round at the second time', () => {
    const t = table()
    t.by('name')
    expect(names(t)).toEqual(['anvil', 'disk 1', 'Disk 2', 'disk 10'])
    t.by('name')
    expect(names(t)).toEqual(['disk 10', 'Disk 2', 'disk 1', 'anvil'])
    expect(t.sorting.value).toEqual({ by: 'name', down: true })
    expect(rows[0]!.name).toBe('disk 10')
  })
})
