import { client } from '../api/client'
import { setOfficeClock } from '../measure/officeClock'
import { useAsk } from './ask'

export const useOffice = () =>
  useAsk(
    ['office'],
    async () => {
      const answered = await client.GET('/api/v1/office')
      if (answered.data) setOfficeClock(answered.data.now)
      return answered
    },
    { staleTime: Infinity },
  )

export const useOfficeDays = () => useAsk(['office-days'], () => client.GET('/api/v1/office/days'), { staleTime: Infinity })

export const useOfficeChoices = () => useAsk(['office-choices'], () => client.GET('/api/v1/office/choices'), { staleTime: Infinity })

export const useDatabase = () => useAsk(['database'], () => client.GET('/api/v1/database'))

export const useRehearsalSchedule = () => useAsk(['rehearsal-schedule'], () => client.GET('/api/v1/rehearsals/schedule'))
