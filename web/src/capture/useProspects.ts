import { keepPreviousData, useQueries } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { answer, client } from '../api/client'
import type { StoringChoice } from './storageChoices'

/** What an image is weighed for. Values, refs or getters. */
export interface UseProspectsOptions {
  diskId: MaybeRefOrGetter<string>
  choices: MaybeRefOrGetter<readonly StoringChoice[]>
  splitBytes: MaybeRefOrGetter<number | null>
  allBlocks: MaybeRefOrGetter<boolean>
  keepSwap: MaybeRefOrGetter<boolean>
  /** Numbers of partitions that are not read. */
  without: MaybeRefOrGetter<number[]>
  encrypted: MaybeRefOrGetter<boolean>
  /** Times by the clock, as nights are planned; differs from how long a run takes only where devices are made up. */
  byClock: boolean
}

/** Only the destinations move between two looks: the server keeps the sample for a while. */
const LOOK_AGAIN_MILLIS = 4_000

/** An image of a disk weighed once for each way to compress it, in the order of the choices, and again every few seconds. */
export function useProspects(options: UseProspectsOptions) {
  return useQueries({
    queries: computed(() => toValue(options.choices).map((c) => {
      const query = {
        diskId: toValue(options.diskId), codec: c.codec, level: c.level ?? undefined, splitBytes: toValue(options.splitBytes) ?? undefined, allBlocks: toValue(options.allBlocks),
        keepSwap: toValue(options.keepSwap), without: toValue(options.without), encrypted: toValue(options.encrypted), byClock: options.byClock,
      }
      return {
        queryKey: ['estimate', query],
        queryFn: () => answer(client.GET('/api/v1/estimates', { params: { query } })),
        placeholderData: keepPreviousData,
        retry: false,
        refetchInterval: LOOK_AGAIN_MILLIS,
        enabled: toValue(options.diskId) !== '',
      }
    })),
  })
}
