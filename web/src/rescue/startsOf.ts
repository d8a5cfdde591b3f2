/** What is known of a medium and a computer. */
export type Started = 'starts' | 'does-not' | 'before-written' | 'not-tried'

/** A test of starting; the newest comes first. `stands` is false for one before the medium was last written. */
interface Test {
  computer: string
  at: string
  started: boolean
  stands: boolean
}

export interface StartedRow {
  name: string
  bootKey: string
  state: Started
  /** Null where it was not tried. */
  at: string | null
}

const ORDER: Started[] = ['does-not', 'starts', 'before-written', 'not-tried']

/** Every computer of the office, by what the newest test with it says: what did not start first, what was never tried last. */
export function startsOf(tests: readonly Test[], computers: readonly { name: string; bootKey: string }[]): StartedRow[] {
  return computers
    .map(({ name, bootKey }) => {
      const newest = tests.find((t) => t.computer === name)
      const state: Started = !newest ? 'not-tried' : !newest.started ? 'does-not' : newest.stands ? 'starts' : 'before-written'
      return { name, bootKey, state, at: newest?.at ?? null }
    })
    .sort((a, b) => ORDER.indexOf(a.state) - ORDER.indexOf(b.state) || a.name.localeCompare(b.name))
}
