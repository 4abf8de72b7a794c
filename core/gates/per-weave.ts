/** What is the same for all things of a weave, worked out once for each under the rules it is of. */
import type { CompiledRules } from './compiled'

/** Answers what `make` makes of a weave, by its number. */
export function perWeave<T>(
  make: (weave: number, rules: CompiledRules) => T,
): (weave: number, rules: CompiledRules) => T {
  const known = new WeakMap<CompiledRules, Map<number, T>>()
  return (weave, rules) => {
    let ofRules = known.get(rules)
    if (!ofRules) known.set(rules, (ofRules = new Map()))
    if (ofRules.has(weave)) return ofRules.get(weave) as T
    const made = make(weave, rules)
    ofRules.set(weave, made)
    return made
  }
}
