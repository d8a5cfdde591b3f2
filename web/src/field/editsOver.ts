const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)

/**
 * What a person edited, laid over what another saved meanwhile: each field as it was edited, and as the other left it where it was not.
 *
 * @param begun  the form before it was edited
 * @param edited the same, as it is now
 * @param saved  what is on record now
 */
export function editsOver<F extends object>(begun: F, edited: F, saved: F): F {
  const fields = Object.keys(edited) as (keyof F)[]
  return { ...saved, ...Object.fromEntries(fields.filter((f) => !same(begun[f], edited[f])).map((f) => [f, edited[f]])) }
}
