import { client } from '../api/client'
import { useAsk } from './ask'

export const useAccounts = () => useAsk(['accounts'], () => client.GET('/api/v1/accounts'))

export const useInvitation = (token: string) =>
  useAsk(['invitation', token], () => client.GET('/api/v1/session/invitation', { params: { query: { token } } }))

export const useSwitches = () => useAsk(['switches'], () => client.GET('/api/v1/switches'))
