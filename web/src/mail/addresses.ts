/** Mail addresses between commas or semicolons. */
export const toAddresses = (text: string): string[] =>
  text
    .split(/[,;]/)
    .map((address) => address.trim())
    .filter((address) => address !== '')
