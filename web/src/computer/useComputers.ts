import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { answer, client } from '../api/client'

/** While disks are being read the list is asked for again this often. */
const WHILE_READING_MILLIS = 1000

/** The office's computers. `reading` tells that attached disks are being read and more is to come. */
export function useComputers() {
  const query = useQuery({
    queryKey: ['computers'],
    queryFn: () => answer(client.GET('/api/v1/computers')),
    refetchInterval: (running) => (running.state.data?.reading ? WHILE_READING_MILLIS : false),
  })

  async function readAgain() {
    await client.POST('/api/v1/computers/read-again')
    await query.refetch()
  }
  return {
    computers: computed(() => query.data.value?.computers ?? []),
    untold: computed(() => query.data.value?.untold ?? []),
    reading: computed(() => query.data.value?.reading ?? false),
    pending: query.isPending,
    error: query.error,
    readAgain,
  }
}
