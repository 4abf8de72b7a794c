/**
 * The names of the kinds, for modules the list of kinds is itself made of: they may ask once it is there, and must not
 * need it to be loaded.
 */
let known: readonly string[] = []
export const knowKinds = (names: readonly string[]): void => void (known = names)
export const knownKinds = (): readonly string[] => known
