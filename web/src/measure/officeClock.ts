import { readonly, ref } from 'vue'

/**
 * The office's clock. A browser's own may be wrong by hours, and a made-up office has its own afternoon: all ages and dates go by the
 * server's. Differences below ten minutes are left alone, so that nothing jumps.
 */
const SMALL = 600_000
const difference = ref(0)

/** By how many ms the office's clock is ahead of the browser's; below 0 when it is behind. */
export const ahead = readonly(difference)

/** @param serverNow what the server's clock shows now, as ISO 8601 */
export function setOfficeClock(serverNow: string, own = Date.now()) {
  const by = Date.parse(serverNow) - own
  difference.value = Number.isFinite(by) && Math.abs(by) > SMALL ? by : 0
}

/** By the office's clock, in ms since 1970. */
export const officeNow = (): number => Date.now() + difference.value

/** The same as a date. */
export const officeDate = (): Date => new Date(officeNow())
