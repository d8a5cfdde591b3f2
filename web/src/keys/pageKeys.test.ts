import { expect, test } from 'vitest'
import { effectScope } from 'vue'
import { keysHere, usePageKeys } from './pageKeys'

test('the list of keys shows those of what is open, and no others', () => {
  const page = effectScope()
  const strip = effectScope()
  page.run(() => usePageKeys(['Enter', 'open it']))
  strip.run(() => usePageKeys(['← →', 'walk the days'], ['Home End', 'the first day, the last']))
  expect(keysHere().map(([key]) => key)).toEqual(['Enter', '← →', 'Home End'])
  page.stop()
  expect(keysHere().map(([key]) => key)).toEqual(['← →', 'Home End'])
  const again = effectScope()
  again.run(() => usePageKeys(['← →', 'walk the days']))
  expect(keysHere().map(([key]) => key)).toEqual(['← →', 'Home End'])
  again.stop()
  strip.stop()
  expect(keysHere()).toEqual([])
})
