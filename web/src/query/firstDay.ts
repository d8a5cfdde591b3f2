import { client } from '../api/client'
import { useAsk } from './ask'

export const useFirstDay = () => useAsk(['first-day'], () => client.GET('/api/v1/first-day'), { staleTime: 0 })
