import { onMounted } from 'vue'
import { useRouter } from 'vue-router'

/** Milliseconds after which a page is fetched though the browser is busy. */
const LONGEST = 5000

/** Fetches the code of other pages when the browser has nothing to do, so that they are there when they are asked for. */
export function usePagesAhead(paths: readonly string[]) {
  const router = useRouter()
  onMounted(() => {
    const left = [...paths]
    const next = () => {
      const page = left.shift()
      const code = page && router.resolve(page).matched.at(-1)?.components?.default
      // a page that cannot be fetched now is fetched, or missed, when it is asked for
      if (typeof code === 'function') void Promise.resolve((code as () => unknown)()).then(soon, () => undefined)
    }
    const soon = () => requestIdleCallback(next, { timeout: LONGEST })
    soon()
  })
}
