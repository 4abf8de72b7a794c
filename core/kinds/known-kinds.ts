/**
 * The names of the kinds, for modules the list of kinds is itself made of: they may ask once it is there, and must not
 * need it to be loaded.
 */
let known: readonly string[] = []
export const knowKinds = (names: readonly string[]): void => void (known = names)
/** Throws before the list of kinds is loaded: with none, every target would be an address elsewhere. */
export function knownKinds(): readonly string[] {
  if (!known.length) throw new Error('The list of kinds is asked for before it is there.')
  return known
}
