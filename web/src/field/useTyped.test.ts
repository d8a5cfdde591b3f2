import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { nextTick, ref } from 'vue'
import { useTyped } from './useTyped'

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

test('what is typed is passed on once, when the typing rests, and what comes from elsewhere is shown', async () => {
  const value = ref('')
  const passed: string[] = []
  const typed = useTyped(
    () => value.value,
    (text) => {
      passed.push(text)
      value.value = text
    },
  )
  for (const text of ['p', 'pl', 'plumb ']) {
    typed.value = text
    await nextTick()
    vi.advanceTimersByTime(100)
  }
  expect(passed).toEqual([])
  vi.advanceTimersByTime(200)
  await nextTick()
  expect(passed).toEqual(['plumb'])
  expect(typed.value).toBe('plumb ') // a space that is still typed at is left
  typed.value = 'plumb l'
  await nextTick()
  value.value = 'datum' // the address leads elsewhere while somebody types
  await nextTick()
  vi.advanceTimersByTime(1000)
  expect(typed.value).toBe('datum')
  expect(passed).toEqual(['plumb'])
})
