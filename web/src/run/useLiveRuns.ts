import { onScopeDispose, readonly, ref, shallowRef } from 'vue'
import type { Live } from '../api/types'
import { askedAgain, type Told } from '../query/events'
import { useChanged } from '../query/ask'

/** "lost" when nobody answers, "refused" when who answers does not let in, as after a sign-in has ended. */
export type Connection = 'open' | 'lost' | 'refused'

/** A stream that was refused, as after a sign-in has ended, is asked for again this often; one that broke off the browser opens itself. */
const AGAIN_MILLIS = 3_000

const runs = shallowRef<readonly Live[]>([])
const connection = ref<Connection>('open')
let source: EventSource | null = null
let users = 0

function open(tell: (...what: Told[]) => void) {
  source = new EventSource('/api/v1/runs/events')
  source.addEventListener('runs', (event) => {
    runs.value = JSON.parse((event as MessageEvent<string>).data) as Live[]
    if (connection.value !== 'open') tell('runs', 'destinations', 'computers', 'targets') // what was told meanwhile was not heard
    connection.value = 'open'
  })
  source.addEventListener('changed', (event) => tell(...(JSON.parse((event as MessageEvent<string>).data) as Told[])))
  source.onerror = () => {
    const refused = source?.readyState === EventSource.CLOSED
    connection.value = refused ? 'refused' : 'lost'
    if (refused)
      setTimeout(() => users > 0 && source?.readyState === EventSource.CLOSED && open(tell), AGAIN_MILLIS)
  }
}

/**
 * The runs under way, kept up to date by server-sent events while any page uses them. What else has changed is told by them too, and asked
 * again.
 */
export function useLiveRuns() {
  const changed = useChanged()
  users++
  if (!source) open((...what) => void changed(...askedAgain(what)))
  onScopeDispose(() => {
    if (--users === 0) {
      source?.close()
      source = null
      runs.value = []
    }
  })
  return { runs: readonly(runs), connection: readonly(connection) }
}
