/** The names a sentence may use: what the rulebook and the site call things. */
import type { Rulebook } from '../rulebook/rulebook'
import type { Kind } from '../kinds/kinds'
import { kinds } from '../kinds/kinds'
import { SiteIndex } from '../site/site-index'
import type { Site } from '../site/site'
import { minorDigits } from '../money'
import { folded, namesIn } from './names'
import type { Named } from './names'
import { placeName } from './place-name'
import { reserved } from './words'

export type { Named }

type Rate = NonNullable<NonNullable<Rulebook['tax']>['rates']>[number]

export interface Lexicon {
  levels: Named[]
  roles: Named[]
  permissions: Named[]
  audiences: Named[]
  facts: Named[]
  people: Named[]
  firms: Named[]
  /** Fields of records, for gates on them. */
  fields: Named[]
  /** Taxes by name, and their rates by what they say. */
  taxes: Named[]
  rates: Named[]
  things: Record<Kind, Named[]>
  /** Digits of the currency's minor unit. */
  moneyDigits: number
}

const named = (list: readonly { id: string; name?: string; title?: string; label?: string }[] | undefined): Named[] =>
  (list ?? []).map(entry => ({ id: entry.id, name: entry.name ?? entry.title ?? entry.label ?? entry.id }))

/** “23 % on standard in Ireland”. */
export const rateName = ({ percent, category, place }: Rate): string =>
  `${percent} % on ${category} in ${placeName(place)}`

/** What taxes and rates are called in a rulebook, which another edition may call otherwise. */
export const taxNames = ({ tax }: Rulebook): Pick<Lexicon, 'taxes' | 'rates'> => ({
  taxes: named(tax?.taxes),
  rates: (tax?.rates ?? []).map(one => ({ id: one.id, name: rateName(one) })),
})

export function lexiconOf(
  rulebook: Rulebook,
  site: Site | SiteIndex,
  more: { people?: Named[]; firms?: Named[] } = {},
): Lexicon {
  const index = site instanceof SiteIndex ? site : new SiteIndex(site)
  const fields = (index.site.registers ?? []).flatMap(register =>
    (register.fields ?? []).map(field => ({ register, field })),
  )
  return {
    levels: named(rulebook.levels),
    roles: named(rulebook.roles),
    permissions: named(rulebook.permissions),
    audiences: named(rulebook.audiences),
    facts: named(rulebook.facts),
    people: more.people ?? [],
    firms: more.firms ?? [],
    fields: [...new Map(named(fields.map(one => one.field)).map(one => [one.id, one])).values()],
    ...taxNames(rulebook),
    things: thingNames(index),
    moneyDigits: minorDigits(index.site.currency),
  }
}

/** Names of things, read once for a site and only of the kinds that are asked for: a hundred thousand of them do not change with a rule. */
const namesOf = new WeakMap<SiteIndex, Lexicon['things']>()
function thingNames(index: SiteIndex): Lexicon['things'] {
  let names = namesOf.get(index)
  if (!names) {
    const read: Partial<Lexicon['things']> = {}
    names = Object.defineProperties(
      {},
      Object.fromEntries(
        kinds.map(kind => [
          kind,
          { enumerable: true, get: () => (read[kind] ??= named([...index.all(kind).values()])) },
        ]),
      ),
    ) as Lexicon['things']
    namesOf.set(index, names)
  }
  return names
}

const plainShape = /^[\p{L}\p{N}][\p{L}\p{N}'’&.+-]*( [\p{L}\p{N}][\p{L}\p{N}'’&.+-]*)*$/u

/** A name that can stand in a sentence without quotes: no word of it means something else. */
export function isPlain(name: string): boolean {
  return (
    plainShape.test(name) &&
    !/[.'’&+-]$/.test(name) &&
    name.split(' ').every(word => !reserved.has(word.toLowerCase())) &&
    !/^\d/.test(name)
  )
}

export const plural = (name: string): string => {
  if (/[^aeiou]y$/i.test(name)) return `${name.slice(0, -1)}ies`
  return /(s|x|z|ch|sh)$/i.test(name) ? `${name}es` : `${name}s`
}

export const quoted = (text: string) => `"${text.replaceAll('"', '""')}"`

/** How a name is written: as it is, quoted, or by id where it would not be unique. */
export function written(list: readonly Named[], id: string): string {
  const names = namesIn(list)
  const entry = names.byId.get(id)
  if (
    !entry ||
    names.called.get(folded(entry.name))!.length > 1 ||
    entry.name.trim() !== entry.name ||
    entry.name === ''
  )
    return byId(id)
  return isPlain(entry.name) ? entry.name : quoted(entry.name)
}

const byId = (id: string) => (/^[a-z0-9-]+$/.test(id) ? `#${id}` : `#${quoted(id)}`)

/** The plural of a role's name when nothing else could be meant by it. */
export function pluralOf(roles: readonly Named[], id: string): string | undefined {
  const role = roles.find(one => one.id === id)
  if (!role) return undefined
  const many = plural(role.name)
  const clash = roles.some(
    one => one.id !== id && [one.name, plural(one.name)].some(name => folded(name) === folded(many)),
  )
  return !clash && isPlain(role.name) && isPlain(many) ? many : undefined
}
