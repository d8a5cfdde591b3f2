import { onScopeDispose, readonly, ref, watch, type Ref } from 'vue'

/** Width of an element in CSS pixels, 0 while it is not there; it may come and go. */
export function useWidth(element: Ref<HTMLElement | null>) {
  const width = ref(0)
  const observer = new ResizeObserver(([entry]) => (width.value = Math.floor(entry?.contentRect.width ?? 0)))
  watch(
    element,
    (now, before) => {
      if (before) observer.unobserve(before)
      width.value = Math.floor(now?.clientWidth ?? 0)
      if (now) observer.observe(now)
    },
    { immediate: true, flush: 'post' },
  )
  onScopeDispose(() => observer.disconnect())
  return readonly(width)
}
