import { onMounted, onScopeDispose } from 'vue'
import { useRouter } from 'vue-router'
import { useAhead } from '../query/ask'
import { PAGES } from './pages'

/** Milliseconds after which a page is fetched though the browser is busy. */
const LONGEST = 5000

/**
 * Fetches the other pages of the index, and what they show first, one after the other when the browser has nothing to do. So a page is
 * there at once when it is asked for; what it shows is asked anew then if it is old.
 */
export function usePagesAhead() {
  const router = useRouter()
  const ahead = useAhead()
  const idle = () => new Promise((done) => requestIdleCallback(done, { timeout: LONGEST }))
  const code = async (to: string) => {
    const page = router.resolve(to).matched.at(-1)?.components?.default
    if (typeof page === 'function') await (page as () => Promise<unknown>)()
  }
  let over = false
  onScopeDispose(() => (over = true))
  onMounted(async () => {
    for (const page of PAGES) {
      await idle()
      if (over) return
      // what cannot be fetched now is fetched, or missed, when it is asked for
      await Promise.allSettled([code(page.to), ...page.asks.map(ahead)])
    }
  })
}
