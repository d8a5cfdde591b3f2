import { computed, ref, type Ref } from 'vue'

/** By which column a table is sorted, and whether the largest comes first. */
export interface Sorting {
  by: string
  down: boolean
}

/**
 * The rows of a table by one of its columns, which a person chooses. Rows that are equal in it stay in the order they had.
 *
 * @param columns what each is compared by: texts as people read them, figures in them by their value; a row that has nothing is last
 * @param first how it is sorted at first
 */
export function useSorted<R>(rows: () => readonly R[], columns: Record<string, (row: R) => string | number | null>, first: Sorting) {
  const sorting = ref({ ...first }) as Ref<Sorting>
  const sorted = computed(() => {
    const value = columns[sorting.value.by]
    if (!value) return [...rows()]
    const way = sorting.value.down ? -1 : 1
    return [...rows()].sort((one, other) => {
      const a = value(one)
      const b = value(other)
      if (a === null || b === null) return Number(a === null) - Number(b === null)
      if (typeof a === 'number' && typeof b === 'number') return (a - b) * way
      return String(a).localeCompare(String(b), undefined, { numeric: true }) * way
    })
  })
  /** By this column; the other way round where it is sorted by it already. */
  function by(column: string) {
    sorting.value = { by: column, down: sorting.value.by === column ? !sorting.value.down : false }
  }
  return { sorted, sorting, by }
}
