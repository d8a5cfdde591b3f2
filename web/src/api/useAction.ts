import { readonly, ref } from 'vue'
import { sentenceOf } from './client'

/**
 * One thing a person asks of the server: `busy` while it is under way, `refused` with the sentence when it was refused, empty otherwise.
 */
export function useAction<A extends unknown[]>(work: (...given: A) => Promise<void>) {
  const busy = ref(false)
  const refused = ref('')

  async function act(...given: A) {
    refused.value = ''
    busy.value = true
    try {
      await work(...given)
    } catch (failure) {
      refused.value = sentenceOf(failure)
    } finally {
      busy.value = false
    }
  }
  return { act, busy: readonly(busy), refused: readonly(refused) }
}
