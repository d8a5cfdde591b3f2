/** What becomes of a computer when its image is made. */
export const AFTERWARDS = [
  { key: 'nothing', label: 'leave it as it is' },
  { key: 'off', label: 'switch it off' },
  { key: 'restart', label: 'start it again' },
] as const
