import { onScopeDispose, readonly, ref } from 'vue'

/** The time now, in ms since 1970, renewed every `everyMillis` while the scope lives. */
export function useNow(everyMillis: number) {
  const now = ref(Date.now())
  const timer = setInterval(() => (now.value = Date.now()), everyMillis)
  onScopeDispose(() => clearInterval(timer))
  return readonly(now)
}
