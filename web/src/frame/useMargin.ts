import { computed, shallowRef } from 'vue'
import type { Working } from '../api/types'

const working = shallowRef<Working | null>(null)

/** The margin on the right, which shows how one figure came about. `open` with the same figure again closes it. */
export function useMargin() {
  return {
    working: computed(() => working.value),
    open: (next: Working) =>
      (working.value = working.value?.title === next.title && working.value.subtitle === next.subtitle ? null : next),
    /** Replaces the working shown by a newer one of the same figure; does nothing when another is open. */
    refresh: (next: Working) => {
      if (working.value?.title === next.title) working.value = next
    },
    close: () => (working.value = null),
  }
}
