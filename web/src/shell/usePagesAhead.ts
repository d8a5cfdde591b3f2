import { onMounted, onScopeDispose } from 'vue'
import { useRouter } from 'vue-router'
import { useAhead } from '../query/ask'
import { PAGES } from './pages'

/** Milliseconds after which a page is fetched though the browser is busy. */
const LONGEST = 5000

/**
 * Fetches the other pages of the index, and what they show first, then the code of all others, one after the other when the browser has
 * nothing to do. So a page is there at once when it is asked for; what it shows is asked anew then if it is old.
 */
export function usePagesAhead() {
  const router = useRouter()
  const ahead = useAhead()
  const idle = () => new Promise((done) => requestIdleCallback(done, { timeout: LONGEST }))
  const codeOf = async (page: unknown) => {
    if (typeof page === 'function') await (page as () => Promise<unknown>)()
  }
  const code = (to: string) => codeOf(router.resolve(to).matched.at(-1)?.components?.default)
  let over = false
  onScopeDispose(() => (over = true))
  onMounted(async () => {
    const steps = [
      ...PAGES.map((page) => () => [code(page.to), ...page.asks.map(ahead)]),
      ...router.getRoutes().map((route) => () => [codeOf(route.components?.default)]),
    ]
    for (const step of steps) {
      await idle()
      if (over) return
      // what cannot be fetched now is fetched, or missed, when it is asked for
      await Promise.allSettled(step())
    }
  })
}
