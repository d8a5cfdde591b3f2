import { readonly, ref } from 'vue'
import { formatSize, type Reading } from './sizes'

const KEY = 'granary.reading'
const reading = ref<Reading>(localStorage.getItem(KEY) === 'binary' ? 'binary' : 'decimal')

/** The reading all sizes on the screen are shown in, and the switch for it. Kept in this browser. */
/** What the office chose, for a browser in which nobody chose yet. */
export function officeReading(units: string) {
  if (!localStorage.getItem(KEY) && (units === 'binary' || units === 'decimal')) reading.value = units
}

export function useUnits() {
  function toggle() {
    reading.value = reading.value === 'decimal' ? 'binary' : 'decimal'
    localStorage.setItem(KEY, reading.value)
  }
  const size = (bytes: number) => formatSize(bytes, reading.value)
  /** ", between 110 MB and 117 MB"; an empty string where both read the same. */
  const between = (low: number, high: number) => (size(low) === size(high) ? '' : `, between ${size(low)} and ${size(high)}`)
  return { reading: readonly(reading), toggle, size, between }
}
