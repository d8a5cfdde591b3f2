import { onMounted, onScopeDispose, readonly, ref } from 'vue'

let last: Promise<void> = Promise.resolve()

const painted = () => new Promise<void>((done) => requestAnimationFrame(() => setTimeout(done)))

/** Whether it is its turn to be drawn: what takes long to draw comes after the page has been painted, one after the other. */
export function useTurn() {
  const turn = ref(false)
  let over = false
  onScopeDispose(() => (over = true))
  onMounted(() => {
    last = last.then(async () => {
      if (over) return
      await painted()
      turn.value = !over
    })
  })
  return readonly(turn)
}
