import { useQueryClient } from '@tanstack/vue-query'
import { onScopeDispose, readonly, ref, shallowRef } from 'vue'
import type { Live } from '../api/types'

export type Connection = 'open' | 'lost'

const runs = shallowRef<readonly Live[]>([])
const connection = ref<Connection>('open')
let source: EventSource | null = null
let users = 0

/** The runs under way, kept up to date by server-sent events while any page uses them. When a run ends, lists that it changed are asked for again. */
export function useLiveRuns() {
  const cache = useQueryClient()
  users++
  if (!source) {
    source = new EventSource('/api/v1/runs/events')
    source.addEventListener('runs', (event) => {
      const before = runs.value
      runs.value = JSON.parse((event as MessageEvent<string>).data) as Live[]
      connection.value = 'open'
      if (before.some((run) => !runs.value.some((now) => now.id === run.id)) || runs.value.length > before.length) {
        for (const key of ['runs', 'waiting', 'unfinished', 'today', 'images', 'image', 'journal', 'computers', 'estimate', 'mail', 'night']) void cache.invalidateQueries({ queryKey: [key] })
      }
    })
    source.onerror = () => (connection.value = 'lost')
  }
  onScopeDispose(() => {
    if (--users === 0) {
      source?.close()
      source = null
      runs.value = []
    }
  })
  return { runs: readonly(runs), connection: readonly(connection) }
}
