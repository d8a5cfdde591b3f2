import type { Router } from 'vue-router'

/** For this window, so that a page that cannot be had even then is not loaded for ever. */
const KEPT = 'granary-loaded-anew'

/**
 * The code of a page that was not fetched yet is gone once Granary was updated, and a browser does not fetch again what it could not have:
 * the page is loaded anew then, if anybody answers.
 */
export function loadedAnew(router: Router) {
  router.afterEach((...[, , failure]) => failure || sessionStorage.removeItem(KEPT))
  router.onError(async (failure, to) => {
    if (!/import/i.test(String(failure)) || sessionStorage.getItem(KEPT) === to.fullPath) return
    const answered = await fetch(to.fullPath).catch(() => null)
    if (!answered?.ok) return
    sessionStorage.setItem(KEPT, to.fullPath)
    globalThis.location.assign(to.fullPath)
  })
}
