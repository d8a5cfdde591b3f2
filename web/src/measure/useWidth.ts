import { onMounted, onScopeDispose, readonly, ref, type Ref } from 'vue'

/** Width of an element in CSS pixels, 0 until it is mounted. */
export function useWidth(element: Ref<HTMLElement | null>) {
  const width = ref(0)
  const observer = new ResizeObserver(([entry]) => (width.value = Math.floor(entry?.contentRect.width ?? 0)))
  onMounted(() => {
    if (element.value) {
      width.value = Math.floor(element.value.clientWidth)
      observer.observe(element.value)
    }
  })
  onScopeDispose(() => observer.disconnect())
  return readonly(width)
}
