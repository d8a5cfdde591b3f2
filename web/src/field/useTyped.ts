import { ref, watch, type Ref } from 'vue'

/**
 * What is being typed into a field. It is passed on when the typing rests, so that not every letter asks the server; what the field stands
 * for may change from elsewhere too, such as by an address, and then that is what the field shows.
 *
 * @param restMillis how long nothing is typed before it is passed on
 */
export function useTyped(value: () => string, pass: (text: string) => void, restMillis = 250): Ref<string> {
  const typed = ref(value())
  let resting: ReturnType<typeof setTimeout> | undefined
  watch(value, (now) => {
    if (now === typed.value.trim()) return
    clearTimeout(resting)
    typed.value = now
  })
  watch(typed, (now) => {
    clearTimeout(resting)
    if (now.trim() !== value()) resting = setTimeout(() => pass(now.trim()), restMillis)
  })
  return typed
}
