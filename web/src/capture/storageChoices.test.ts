import { expect, it } from 'vitest'
import { CHOICES, choicesWith } from './storageChoices'

it('adds the way a plan asks for when it is none of the four', () => {
  expect(choicesWith('zstd', 3)).toBe(CHOICES)
  const own = choicesWith('xz', 6)
  expect(own).toHaveLength(6)
  expect(own[5]).toMatchObject({ key: 'own', name: 'xz 6', codec: 'xz', level: 6 })
})
