import { computed, readonly, ref, shallowRef } from 'vue'
import { Refusal, sentenceOf } from './client'

/** Precondition failed: RFC 9110, section 15.5.13. */
const CHANGED_MEANWHILE = 412

/**
 * One thing a person asks of the server: `busy` while it is under way, `refused` with the sentence when it was refused, empty otherwise,
 * `refusal` with what the server said, for the field it names, `conflict` when somebody else changed it meanwhile.
 */
export function useAction<A extends unknown[]>(work: (...given: A) => Promise<void>) {
  const busy = ref(false)
  const refusal = shallowRef<Refusal | null>(null)

  async function whileBusy(does: () => Promise<void>) {
    refusal.value = null
    busy.value = true
    try {
      await does()
    } catch (failure) {
      refusal.value = failure instanceof Refusal ? failure : new Refusal('unforeseen', sentenceOf(failure), '', 0)
    } finally {
      busy.value = false
    }
  }
  return {
    act: (...given: A) => whileBusy(() => work(...given)),
    /** Does something that comes first: until it has ended nothing can be asked of what was known before. */
    whileBusy,
    busy: readonly(busy),
    refused: computed(() => refusal.value?.sentence ?? ''),
    refusal,
    conflict: computed(() => refusal.value?.status === CHANGED_MEANWHILE),
  }
}
