import type { UseQueryReturnType } from '@tanstack/vue-query'
import { computed, ref, type ComputedRef } from 'vue'
import { client } from '../api/client'
import { useAction } from '../api/useAction'
import { useEdited } from '../field/useEdited'
import { useChanged } from '../query/ask'
import { useMailServer } from '../query/mail'
import { useOfficeChoices, useOfficeDays, useRehearsalSchedule } from '../query/office'

/** A part of the settings that has its own record, and its own version of it. */
interface Part {
  name: string
  dirty: ComputedRef<boolean>
  put: () => Promise<void>
}

/** A form of what a question is answered with. `keep` asks it anew, and goes on from what somebody else saved. */
function useAsked<R, F extends object>(query: UseQueryReturnType<R, Error>, formOf: (record: R) => F) {
  const edited = useEdited(() => query.data.value, formOf)
  return { ...edited, query, keep: async () => edited.goOn((await query.refetch()).data) }
}

const ifUnchanged = (record: { version: number }) => ({ params: { header: { 'If-Match': `"${record.version}"` } } })

function useOfficePart() {
  const changed = useChanged()
  const query = useOfficeChoices()
  const edited = useAsked(query, (now) => now.form)
  async function put() {
    await client.PUT('/api/v1/office/choices', { ...ifUnchanged(edited.record.value!), body: edited.form.value! })
    await Promise.all([query.refetch(), changed('office', 'retention', 'outlook', 'folder-example')])
    edited.begin()
  }
  return { ...edited, part: { name: 'the office and its images', dirty: edited.dirty, put } }
}

function useHoursPart() {
  const changed = useChanged()
  const query = useOfficeDays()
  const edited = useAsked(query, (now) => now.form)
  async function put() {
    await client.PUT('/api/v1/office/days', { ...ifUnchanged(edited.record.value!), body: edited.form.value! })
    await Promise.all([query.refetch(), changed('night', 'plans')])
    edited.begin()
  }
  return { ...edited, part: { name: 'the hours', dirty: edited.dirty, put } }
}

function useMailPart() {
  const query = useMailServer()
  const password = ref('')
  const edited = useAsked(query, ({ host, port, security, account, sender }) => ({ host, port, security, account, sender }))
  const dirty = computed(() => edited.dirty.value || password.value !== '')
  async function put() {
    const samePassword = password.value === '' && edited.record.value!.hasPassword && edited.form.value!.account !== ''
    const body = { ...edited.form.value!, password: password.value, samePassword }
    await client.PUT('/api/v1/mail-server', { ...ifUnchanged(edited.record.value!), body })
    password.value = ''
    await query.refetch()
    edited.begin()
  }
  return { ...edited, password, part: { name: 'the mail server', dirty, put } }
}

function useRehearsalPart() {
  const query = useRehearsalSchedule()
  const edited = useAsked(query, (now) => ({ days: now.days }))
  async function put() {
    await client.PUT('/api/v1/rehearsals/schedule', { body: edited.form.value! })
    await query.refetch()
    edited.begin()
  }
  return { ...edited, part: { name: 'the rehearsals', dirty: edited.dirty, put } }
}

/** Everything the office's settings page edits. What has changed is saved together, in the order of the page. */
export function useSettings() {
  const office = useOfficePart()
  const hours = useHoursPart()
  const mail = useMailPart()
  const rehearsals = useRehearsalPart()
  const all = [office, hours, mail, rehearsals]
  const parts: Part[] = all.map((each) => each.part)
  const said = ref('')

  const saving = useAction(async () => {
    said.value = ''
    const saved: string[] = []
    try {
      for (const part of parts.filter((each) => each.dirty.value)) {
        await part.put()
        saved.push(part.name)
      }
    } finally {
      // where a later part is refused, what came before it is saved all the same
      if (saved.length) said.value = `Saved: ${saved.join(', ')}.`
    }
  })
  /** What is typed takes the place of what somebody else saved meanwhile, once it is saved again. */
  const keepMine = () =>
    saving.whileBusy(async () => {
      await Promise.all(all.map((each) => each.keep()))
    })
  return {
    office,
    hours,
    mail,
    rehearsals,
    keepMine,
    dirty: computed(() => parts.some((part) => part.dirty.value)),
    read: computed(() => all.every((each) => each.form.value !== null)),
    unread: computed(() => all.map((each) => each.query.error.value).find((each) => each)),
    saving,
    said,
  }
}
