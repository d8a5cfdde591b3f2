import { describe, expect, it } from 'vitest'
import { Refusal } from './client'
import { useAction } from './useAction'

describe('an action that was refused because of somebody else', () => {
  it('cannot be asked again before what they saved is known', async () => {
    let known = 1
    const saving = useAction(async (version: number) => {
      if (version < 2) throw new Refusal('changed', 'Someone changed it.', '', 412)
    })
    await saving.act(known)
    expect(saving.conflict.value).toBe(true)
    let come = () => {}
    const keeping = saving.whileBusy(() => new Promise<void>((resolve) => (come = resolve)).then(() => void (known = 2)))
    expect([saving.busy.value, saving.conflict.value]).toEqual([true, false])
    come()
    await keeping
    expect(saving.busy.value).toBe(false)
    await saving.act(known)
    expect(saving.refused.value).toBe('')
  })
})
