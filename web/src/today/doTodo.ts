import { answer, client } from '../api/client'
import type { Todo } from '../api/types'
import { today } from '../measure/days'

/** Does from here what a line of Today asks for; returns what to tell, or throws the server's refusal. */
export async function doTodo({ verb, subject }: Pick<Todo, 'verb' | 'subject'>): Promise<string> {
  const [first = '', second = ''] = subject.split(',')
  switch (verb) {
    case 'repair':
      await client.POST('/api/v1/runs/repairs', { body: { imageId: first, fromImageId: second, passphrase: null } })
      return 'It is being repaired from the copy; Runs shows how far.'
    case 'release':
      await client.POST('/api/v1/retention/releases', { body: { images: [first] } })
      return 'Released. It can be taken back from the trash on the Retention page.'
    case 'check-disk':
      await client.POST('/api/v1/today/disks/{diskId}/check', { params: { path: { diskId: first } } })
      return 'It is being checked; Runs shows how far.'
    case 'seen':
      await client.POST('/api/v1/runs/{id}/seen', { params: { path: { id: first } } })
      return ''
    case 'release-again':
      await client.POST('/api/v1/retention/releases/again')
      return ''
    case 'write-off':
      await client.POST('/api/v1/reconciliation/written-off', { body: { images: subject.split(',') } })
      return 'Written off. What is known of them stays.'
    case 'here':
    case 'off-site':
      await client.POST('/api/v1/destinations/{id}/place', { params: { path: { id: first } }, body: { kind: verb, exactly: '' } })
      return 'Noted in the journal.'
    case 'files-saved':
      for (const id of subject.split(','))
        await client.PUT('/api/v1/computers/{id}/files-saved', { params: { path: { id } }, body: { on: today(), how: '' } })
      return 'Noted for today.'
    case 'copy-database':
      return (await answer(client.POST('/api/v1/database/copies'))).sentence
    default:
      return ''
  }
}
