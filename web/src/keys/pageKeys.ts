import { onScopeDispose, ref } from 'vue'

/** A key as it is written on the list of keys, and what it does. */
export type KeyLine = readonly [key: string, what: string]

const lines = ref<{ of: symbol; keys: readonly KeyLine[] }[]>([])

/** Keys of the page one is on, and of what is open on it: in the order they came, what several parts tell alike once. */
export const keysHere = (): KeyLine[] => [
  ...new Map(lines.value.flatMap((each) => each.keys.map((line) => [line.join('\n'), line] as const))).values(),
]

/** Tells the list of keys what works here, while its scope lives. */
export function usePageKeys(...keys: KeyLine[]) {
  const of = Symbol('a page or a part of one')
  lines.value = [...lines.value, { of, keys }]
  onScopeDispose(() => (lines.value = lines.value.filter((each) => each.of !== of)))
}
