import { describe, expect, it } from 'vitest'
import { NOUNS } from './ask'
import { askedAgain, type Told } from './events'

describe('what is asked again when the server tells of a change', () => {
  it('names each once, and nothing for a word it does not know', () => {
    expect(askedAgain(['targets', 'destinations'])).toEqual(['targets', 'destinations', 'estimate', 'unfinished', 'first-day'])
    const twice = askedAgain(['runs', 'computers'])
    expect(new Set(twice).size).toBe(twice.length)
    expect(askedAgain(['weather' as Told])).toEqual([])
  })
  it('leaves alone what a person is typing into', () => {
    const all = askedAgain(['runs', 'destinations', 'computers', 'targets'])
    for (const form of ['plan', 'proposal', 'office-choices', 'office-days', 'rehearsal-schedule'] as const) {
      expect(NOUNS).toContain(form)
      expect(all).not.toContain(form)
    }
  })
})
