import { describe, expect, it } from 'vitest'
import { nextTick, ref } from 'vue'
import { useEdited } from './useEdited'

describe('a form of what is on record', () => {
  it('keeps what was typed when the record changes meanwhile, with the version it was begun from', async () => {
    const server = ref<{ version: number; name: string } | undefined>(undefined)
    const edited = useEdited(
      () => server.value,
      (r) => ({ name: r.name }),
    )
    expect(edited.form.value).toBeNull()
    expect(edited.dirty.value).toBe(false)

    server.value = { version: 1, name: 'Larch' }
    await nextTick()
    expect(edited.form.value).toEqual({ name: 'Larch' })

    server.value = { version: 2, name: 'Larch & Fell' }
    await nextTick()
    expect(edited.form.value).toEqual({ name: 'Larch & Fell' })

    edited.form.value!.name = 'Fell'
    expect(edited.dirty.value).toBe(true)
    server.value = { version: 3, name: 'Somebody else' }
    await nextTick()
    expect(edited.form.value).toEqual({ name: 'Fell' })
    expect(edited.record.value!.version).toBe(2)

    edited.goOn(undefined)
    expect(edited.record.value!.version).toBe(2)

    edited.goOn({ version: 3, name: 'Somebody else' })
    expect(edited.form.value).toEqual({ name: 'Fell' })
    expect(edited.record.value!.version).toBe(3)
    expect(edited.dirty.value).toBe(true)

    edited.begin()
    expect(edited.form.value).toEqual({ name: 'Somebody else' })
    expect(edited.dirty.value).toBe(false)
    expect(server.value).toEqual({ version: 3, name: 'Somebody else' })
  })
})
