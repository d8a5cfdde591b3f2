import { computed, readonly, shallowRef } from 'vue'
import { answer, client, onSignedOut } from '../api/client'
import type { Session } from '../api/types'

const session = shallowRef<Session | null>(null)
/** Whether the sign-in this page was opened by has ended: by time, or because the account was closed or signed out elsewhere. */
const ended = shallowRef(false)
onSignedOut(() => {
  if (session.value?.name) ended.value = true
})

/** The session as the server knows it; asked once, then kept until signing in or out. */
export async function currentSession(): Promise<Session> {
  session.value ??= await answer(client.GET('/api/v1/session'))
  return session.value
}

export function useSession() {
  return {
    session: readonly(session),
    ended: readonly(ended),
    /** Whose sign-in it was. */
    lastName: computed(() => session.value?.name ?? ''),
    /** Whether this account may act; a viewer only looks. */
    mayAct: computed(() => session.value?.role === 'technician'),
    signIn: async (name: string, password: string) => {
      session.value = await answer(client.POST('/api/v1/session', { body: { name, password } }))
      ended.value = false
      return session.value
    },
    createFirst: async (name: string, password: string, word: string) =>
      (session.value = await answer(client.POST('/api/v1/session/first', { body: { name, password, word } }))),
    /** A session that began otherwise, as by an invitation. */
    take: (begun: Session) => (session.value = begun),
    signOut: async () => {
      await client.DELETE('/api/v1/session')
      session.value = null
    },
  }
}
