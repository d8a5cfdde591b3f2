import { client } from '../api/client'
import { useAsk } from './ask'

/** The server that carries the office's mail; its host is an empty string while none is set up. */
export const useMailServer = () => useAsk(['mail-server'], () => client.GET('/api/v1/mail-server'))
