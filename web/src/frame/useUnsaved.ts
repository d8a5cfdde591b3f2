import { onScopeDispose, ref } from 'vue'
import { onBeforeRouteLeave, onBeforeRouteUpdate } from 'vue-router'

/** The question whether to leave a page with changes that are not saved; null while it is not asked. */
export const asked = ref<{ what: string; answer: (leave: boolean) => void } | null>(null)

function ask(what: string): Promise<boolean> {
  asked.value?.answer(false) // who wanted to go elsewhere in between has changed their mind
  return new Promise((resolve) => {
    asked.value = {
      what,
      answer: (leave) => {
        asked.value = null
        resolve(leave)
      },
    }
  })
}

/**
 * Asks before a page is left whose changes are not saved; the browser asks in its own words when it is closed or loaded anew.
 *
 * @param dirty whether there are any
 * @param what  is changed: "the settings"
 * @return asks the same where something else on the page would take the place of what is changed; true when nothing is lost by it
 */
export function useUnsaved(dirty: () => boolean, what: string) {
  onBeforeRouteLeave(() => !dirty() || ask(what))
  onBeforeRouteUpdate((to, from) => to.path === from.path || !dirty() || ask(what))
  function closing(event: BeforeUnloadEvent) {
    if (dirty()) event.preventDefault()
  }
  globalThis.addEventListener('beforeunload', closing)
  onScopeDispose(() => globalThis.removeEventListener('beforeunload', closing))
  return async () => !dirty() || ask(what)
}
