/** What may be chosen from: words by value, or a list of values, of things with a name, of values with their words. */
export type Choices =
  | Readonly<Record<string, string>>
  | Iterable<
      string | number | { value: string | number; label: string } | { id: string; name?: string; title?: string }
    >

const isList = (of: Choices): of is Exclude<Choices, Readonly<Record<string, string>>> => Symbol.iterator in of

/** Each choice with its value and its words, in their order. */
export function choicesOf(of: Choices): { value: string | number; label: string }[] {
  if (!isList(of)) return Object.entries(of).map(([value, label]) => ({ value, label }))
  return Array.from(of, one => {
    if (typeof one !== 'object') return { value: one, label: String(one) }
    if ('value' in one) return one
    return { value: one.id, label: one.name ?? one.title ?? one.id }
  })
}
