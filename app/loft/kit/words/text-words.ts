/** Small turns of phrase that screens share. */
export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

/** One, or many: “1 price”, “3 prices”. */
export const counted = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString('en')} ${n === 1 ? one : many}`

/** What a language is called, by its tag; the tag itself where nobody knows. */
export function languageName(tag: string): string {
  try {
    return capital(new Intl.DisplayNames('en', { type: 'language' }).of(tag) ?? tag)
  } catch {
    return tag
  }
}
