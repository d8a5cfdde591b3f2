import { client } from '../api/client'
import { useAsk } from './ask'

/** Images that are served as disks or run as computers now; what a computer wrote is asked for again while it runs. */
export const useServed = () =>
  useAsk(['served'], () => client.GET('/api/v1/served'), {
    refetchInterval: (query) => (query.state.data?.some((each) => each.kind === 'computer') ? 5000 : false),
  })
