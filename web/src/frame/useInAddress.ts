import { watch } from 'vue'
import { useRoute, useRouter, type LocationQuery } from 'vue-router'

type Choice = Record<string, string | number>

/** What an address says of a choice; what it does not say, or says as nonsense, is as it is at first. */
export function readChoice<T extends Choice>(query: LocationQuery, first: T): T {
  return Object.fromEntries(
    Object.entries(first).map(([name, usual]) => {
      const text = [query[name]].flat()[0]
      if (typeof usual === 'number') return [name, /^\d{1,9}$/.test(text ?? '') ? Number(text) : usual]
      return [name, text ?? usual]
    }),
  ) as T
}

/** The query that says it: only what is not as at first, beside what else the address says. */
export function writeChoice<T extends Choice>(query: LocationQuery, first: T, now: T): LocationQuery {
  const others = Object.entries(query).filter(([name]) => !(name in first))
  const own = Object.entries(now).filter(([name, value]) => value !== first[name])
  return Object.fromEntries([...others, ...own.map(([name, value]) => [name, String(value)])]) as LocationQuery
}

/**
 * Keeps what a page is narrowed to in its address, so that it can be bookmarked, sent to somebody and come back to.
 *
 * @param chosen texts and whole numbers; changed at once to what the address says
 */
export function useInAddress<T extends Choice>(chosen: T) {
  const route = useRoute()
  const router = useRouter()
  const first = { ...chosen }
  const path = route.path
  /** What this page wrote itself: what was chosen since must not be taken back by it. */
  const written = new Set<string>()

  Object.assign(chosen, readChoice(route.query, first))
  watch(
    () => route.query,
    (query) => {
      const said = readChoice(query, first)
      if (route.path === path && !written.delete(JSON.stringify(said))) Object.assign(chosen, said)
    },
  )
  watch(
    () => ({ ...chosen }),
    (now) => {
      if (route.path !== path || JSON.stringify(now) === JSON.stringify(readChoice(route.query, first))) return
      written.add(JSON.stringify(now))
      void router.replace({ query: writeChoice(route.query, first, now), hash: route.hash })
    },
  )
}
