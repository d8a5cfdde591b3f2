import { readonly, ref } from 'vue'

export type Theme = 'light' | 'dark'
const KEY = 'granary.theme'
const kept = localStorage.getItem(KEY)
const theme = ref<Theme>(kept === 'dark' || kept === 'light' ? kept : matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light')
document.documentElement.dataset.theme = theme.value

/** Light or dark: the system's choice until the person makes one, kept in this browser. */
export function useTheme() {
  function toggle() {
    theme.value = theme.value === 'light' ? 'dark' : 'light'
    document.documentElement.dataset.theme = theme.value
    localStorage.setItem(KEY, theme.value)
  }
  return { theme: readonly(theme), toggle }
}
