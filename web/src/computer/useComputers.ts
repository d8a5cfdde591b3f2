import { computed } from 'vue'
import { client } from '../api/client'
import { useComputerList } from '../query/computers'

/** The office's computers. `reading` tells that attached disks are being read and more is to come. */
export function useComputers() {
  const query = useComputerList()

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
