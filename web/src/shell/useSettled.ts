import { useQueryClient } from '@tanstack/vue-query'
import type { Noun } from '../query/ask'
import { onScopeDispose, readonly, ref, watch, type WatchSource } from 'vue'

/** Milliseconds a page may wait for its first answers; then it is shown with what there is. */
const LONGEST = 400

/** A sample of a disk may take minutes: pages hold its place, and show what else they know. */
const LATE: readonly unknown[] = ['estimate', 'sampling'] satisfies Noun[]

/**
 * Whether the answers that a page asks for at first have come. Until then only its heading is shown, so that nothing on it moves when they
 * do. A page whose answers are known is settled from the start.
 *
 * @param page changes with the page; read after the new one is there
 */
export function useSettled(page: WatchSource<string>) {
  const cache = useQueryClient()
  const settled = ref(true)
  let frame = 0
  const waiting = () =>
    cache.isFetching({ predicate: (asked) => asked.state.status === 'pending' && !LATE.includes(asked.queryKey[0]) }) > 0
  const look = (until: number) => {
    settled.value = !waiting() || performance.now() > until
    if (!settled.value) frame = requestAnimationFrame(() => look(until))
  }
  watch(
    page,
    () => {
      cancelAnimationFrame(frame)
      look(performance.now() + LONGEST)
    },
    { immediate: true, flush: 'post' },
  )
  onScopeDispose(() => cancelAnimationFrame(frame))
  return readonly(settled)
}
