/** A choice of a form: the word on the wire and what a person reads. */
export interface Choice {
  key: string
  label: string
}

export const FIRMWARES: Choice[] = [
  { key: 'unknown', label: 'not known' },
  { key: 'uefi', label: 'UEFI' },
  { key: 'bios', label: 'BIOS' },
]
export const ENCRYPTIONS: Choice[] = [
  { key: 'unknown', label: 'not known' },
  { key: 'none', label: 'not encrypted' },
  { key: 'volumes', label: 'encrypted' },
]
export const KEY_PLACES: Choice[] = [
  { key: 'unknown', label: 'place not known' },
  { key: 'paper', label: 'on paper' },
  { key: 'safe', label: 'in the fire safe' },
  { key: 'password-store', label: 'in a password store elsewhere' },
  { key: 'other-computer', label: 'on another computer' },
  { key: 'same-computer', label: 'on this same computer' },
]
/** Keys that open a boot menu, as makers use them (common practice, no source). */
export const BOOT_KEYS = ['Esc', 'F1', 'F2', 'F8', 'F9', 'F10', 'F11', 'F12', 'Option (Alt)']

/** What a person reads for a word on the wire; the word itself when it is none of the choices. */
export function labelOf(choices: Choice[], key: string): string {
  return choices.find((c) => c.key === key)?.label ?? key
}
