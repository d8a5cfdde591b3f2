import { computed, onScopeDispose, ref } from 'vue'
import { ahead } from './officeClock'

/** The time now by the office's clock, in ms since 1970, renewed every `everyMillis` while the scope lives. */
export function useNow(everyMillis: number) {
  const tick = ref(Date.now())
  const timer = setInterval(() => (tick.value = Date.now()), everyMillis)
  onScopeDispose(() => clearInterval(timer))
  return computed(() => tick.value + ahead.value)
}
