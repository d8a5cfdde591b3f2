import { client } from '../api/client'
import { question, useAsk, useQuestion } from './ask'

/** While disks are being read the list is asked for again this often. */
const WHILE_READING_MILLIS = 1000

export const COMPUTERS = question(['computers'], (by) => by.GET('/api/v1/computers'))

export const useComputerList = () =>
  useQuestion(COMPUTERS, { refetchInterval: (query) => (query.state.data?.reading ? WHILE_READING_MILLIS : false) })

export const useComputer = (id: () => string) =>
  useAsk(['computer', id], () => client.GET('/api/v1/computers/{id}', { params: { path: { id: id() } } }))

export const useDisk = (id: () => string) =>
  useAsk(['disk', id], () => client.GET('/api/v1/computers/disks/{id}', { params: { path: { id: id() } } }))
