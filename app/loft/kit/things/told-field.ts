/** What a thing says in one field, in the words of a sentence; nothing where it says nothing. */
import type { Rulebook } from '~~/core/rulebook/rulebook'
import type { SiteIndex } from '~~/core/site/site-index'
import { andWords } from '~~/core/sentences/and-words'
import { dateText } from '~~/core/sentences/values'
import type { Kind } from '~~/core/kinds/kinds'
import type { KindField } from '~/kinds/app-kind'

interface Known {
  index: SiteIndex
  book: Rulebook
  money(minor: number): string
}
type Told = (field: KindField, kept: NonNullable<unknown>, known: Known) => string

const longest = 70
const short = (text: string) => {
  const [line = ''] = text.trim().split('\n')
  return line.length < text.trim().length || line.length > longest ? `${line.slice(0, longest).trimEnd()}…` : line
}
const titleOf = (of: string, id: string, { index }: Known) =>
  (index.get(of as Kind, id) as { title?: string } | undefined)?.title ?? id
/** Left out it may mean one of them. */
function option({ options, choices = [], read = String }: KindField, kept: unknown, { index, book }: Known): string {
  const all = options?.(index, book) ?? choices.map(value => ({ value, label: value }))
  return all.find(one => one.value === read(kept))?.label ?? String(kept ?? '')
}
const day = (date: string | undefined) => (date === undefined ? '' : dateText(date))

const tellers: Record<KindField['type'], Told> = {
  text: (_, kept) => String(kept),
  words: (_, kept) => short(String(kept)),
  number: ({ unit = '' }, kept) => `${String(kept)} ${unit}`.trim(),
  money: (_, kept, { money }) => money(kept as number),
  check: (_, kept) => (kept === true ? 'yes' : ''),
  one: ({ of }, kept, known) => titleOf(of!, String(kept), known),
  many: ({ of }, kept, known) => andWords((kept as string[]).map(id => titleOf(of!, id, known))),
  choice: option,
  picture: ({ choices = [] }, kept) =>
    choices.includes(String(kept)) ? `the weave ${String(kept)}` : 'a picture of its own',
  file: (_, kept) => String(kept),
  sale(_, kept, { money }) {
    const { price, from, until } = kept as { price: number; from?: string; until?: string }
    return [money(price), from ? `from ${day(from)}` : '', until ? `until ${day(until)}` : ''].filter(Boolean).join(' ')
  },
  pairs: (_, kept) =>
    Object.entries(kept as Record<string, string>)
      .map(([name, value]) => `${name} ${value}`)
      .join(', '),
}

export function toldField(field: KindField, thing: Readonly<Record<string, unknown>>, known: Known): string {
  const kept = thing[field.key] ?? undefined
  if (field.type === 'choice') return option(field, kept, known)
  return kept === undefined || kept === '' ? '' : tellers[field.type](field, kept, known)
}
