import createClient, { type Middleware } from 'openapi-fetch'
import type { paths } from './api-types'

/** A refusal as the server words it (RFC 9457). `type` is stable; `sentence` says what to do; `field` names the input, or is empty. */
export class Refusal extends Error {
  constructor(
    readonly type: string,
    readonly sentence: string,
    readonly field: string,
    readonly status: number,
  ) {
    super(sentence)
  }
}

/** The server's CSRF token travels back from its cookie in a header. */
function csrfToken(): string {
  return decodeURIComponent(
    document.cookie
      .split('; ')
      .find((c) => c.startsWith('XSRF-TOKEN='))
      ?.slice('XSRF-TOKEN='.length) ?? '',
  )
}

let signedOut = () => {}
/** What is done when the server says that nobody is signed in any more; the refusal itself is thrown as any other. */
export function onSignedOut(then: () => void) {
  signedOut = then
}

/** @param ended what is done when nobody is signed in */
const guard = (ended: () => void): Middleware => ({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-XSRF-TOKEN', csrfToken())
    return request
  },
  async onResponse({ response }) {
    if (response.ok) return response
    const problem = await response
      .clone()
      .json()
      .catch(() => ({}))
    const type = String(problem.type ?? '').replace('urn:granary:problem:', '')
    if (type === 'not-signed-in') ended()
    throw new Refusal(
      type,
      problem.detail ?? `Granary answered ${response.status}. Load the page again; if it stays, look at the server's log.`,
      problem.field ?? '',
      response.status,
    )
  },
  onError() {
    return new Refusal('unreachable', 'Granary cannot be reached. Is it still running on this machine? Start it and try again.', '', 0)
  },
})

/** Addresses are this page's own; outside a browser, as in tests, there is no page. */
function made(ended: () => void) {
  const out = createClient<paths>({
    baseUrl: globalThis.location?.origin ?? 'http://localhost',
    fetch: (request) => globalThis.fetch(request),
  })
  out.use(guard(ended))
  return out
}

/** For what a person or a page asks. */
export const client = made(() => signedOut())
/** For what nobody asked for yet: that nobody is signed in any more is said when somebody does. */
export const quietClient = made(() => {})

/** The answer's content; refusals are thrown before this is reached. */
export async function answer<T>(call: Promise<{ data?: T }>): Promise<T> {
  return (await call).data as T
}

/** The sentence to show for anything that was thrown. */
export function sentenceOf(failure: unknown): string {
  return failure instanceof Refusal ? failure.sentence : 'Something unforeseen happened in this page. Load it again.'
}
