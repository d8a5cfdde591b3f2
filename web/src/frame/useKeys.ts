import { onScopeDispose } from 'vue'

/** What the keys of the frame do. */
export interface KeyActions {
  find: () => void
  keys: () => void
  escape: () => void
  /** Opens the entry of the index with this number, from 0; -1 is the last. */
  go: (index: number) => void
}

/** Listens for the frame's keys while its scope lives. Keys typed into a field are left to the field; a box that is only ticked is none. */
export function useKeys(actions: KeyActions) {
  function pressed(event: KeyboardEvent) {
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
      event.preventDefault()
      actions.find()
      return
    }
    if (event.key === 'Escape') actions.escape()
    const typing =
      event.target instanceof HTMLElement &&
      event.target.closest('input:not([type=checkbox], [type=radio]), textarea, select, [contenteditable]')
    if (typing || event.ctrlKey || event.metaKey) return
    if (event.altKey && /^[0-9]$/.test(event.key)) {
      event.preventDefault()
      actions.go(Number(event.key) - 1)
    } else if (event.key === '?') {
      actions.keys()
    } else if (event.key === '/') {
      const filter = document.querySelector<HTMLInputElement>('input[data-filter]')
      if (filter) {
        event.preventDefault()
        filter.focus()
      }
    }
  }
  window.addEventListener('keydown', pressed)
  onScopeDispose(() => window.removeEventListener('keydown', pressed))
}
