import { keepPreviousData, useQueries } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { answer, client } from '../api/client'
import { useAsk, type Key } from './ask'

/** One way to compress and store. */
export interface Storing {
  codec: string
  level: number | null
}

/** What an image is weighed for. Values, refs or getters. */
export interface UseProspectsOptions {
  diskId: MaybeRefOrGetter<string>
  choices: MaybeRefOrGetter<readonly Storing[]>
  splitBytes: MaybeRefOrGetter<number | null>
  allBlocks: MaybeRefOrGetter<boolean>
  keepSwap: MaybeRefOrGetter<boolean>
  /** Numbers of partitions that are not read. */
  without: MaybeRefOrGetter<number[]>
  encrypted: MaybeRefOrGetter<boolean>
  /** Times by the clock, as nights are planned; differs from how long a run takes only where devices are made up. */
  byClock: boolean
}

/** A sample grows within seconds, and no event tells how far. */
const SAMPLING_MILLIS = 400

/** An image of a disk weighed once for each way to compress it, in the order of the choices; again when a destination changes. */
export function useProspects(options: UseProspectsOptions) {
  return useQueries({
    queries: computed(() =>
      toValue(options.choices).map((c) => {
        const query = {
          diskId: toValue(options.diskId),
          codec: c.codec,
          level: c.level ?? undefined,
          splitBytes: toValue(options.splitBytes) ?? undefined,
          allBlocks: toValue(options.allBlocks),
          keepSwap: toValue(options.keepSwap),
          without: toValue(options.without),
          encrypted: toValue(options.encrypted),
          byClock: options.byClock,
        }
        const key: Key = ['estimate', query]
        return {
          queryKey: key as unknown as unknown[],
          queryFn: () => answer(client.GET('/api/v1/estimates', { params: { query } })),
          placeholderData: keepPreviousData,
          retry: false,
          enabled: toValue(options.diskId) !== '',
        }
      }),
    ),
  })
}

export const useSampling = (diskId: () => string) =>
  useAsk(['sampling', diskId], () => client.GET('/api/v1/estimates/sampling', { params: { query: { diskId: diskId() } } }), {
    refetchInterval: SAMPLING_MILLIS,
  })
