import type { FactsOfFinding, Finding, FindingCode } from '~~/core/audit/findings/findings'
import { isEntryKind } from '~~/core/editions/contents'
import type { Kind, Resource } from '~~/core/kinds/kinds'
import { typedMoney } from '~~/core/money'
import { entriesOf } from '~~/core/rulebook/rulebook'
import { rateName } from '~~/core/sentences/lexicon'
import { countryName, placeName } from '~~/core/sentences/place-name'
import { showingSpots, termCalled } from '~~/core/sentences/say-tax'
import { described } from '~/kinds/described'
import { useLoft } from '~/loft/core/loft'

/** How what a finding names is called. */
export interface FindingNames {
  /** The tier it is told by. */ who: string
  /** What it stands at. */ what: string
  money(minor: number): string
  product(id: string): string
  thing(one: Resource): string
  category(id: string): string
  offer(id: string): string
  /** Of other terms of tax. */ terms(id: string): string
}

const placeOf = (area: string) =>
  area.includes('-') ? { region: area, country: area.slice(0, 2) } : area ? { country: area } : {}

/** A finding in words. One without its words does not compile. */
const words: { [C in FindingCode]: (names: FindingNames, facts: FactsOfFinding<C>) => string } = {
  'hidden-told': ({ who, what, thing }, { how, example, things }) =>
    `${what === 'site' ? 'What is said of the site' : what} answers ${who} with a ${how} at the address of ${thing(example)}${things > 1 ? ` and ${things - 1} more` : ''}, which they may not find: whoever tries it knows that it is there.`,
  'redirect-leads-back': ({ who, what, thing }, { to, example }) =>
    `${what === 'site' ? 'What is said of the site' : what} leads ${who} from ${thing(example)} to ${to}, where they are led back: they get nothing there at all.`,
  'landing-nowhere': ({ who }, { to }) => `${who} would land on ${to}, where there is no page.`,
  'landing-shut': ({ who }, { to }) => `${who} would land on ${to}, and cannot open it.`,
  'pays-more': ({ who, what, money }, { pays, guest }) =>
    `${who} pays ${money(pays)} for ${what}, more than a guest, who pays ${money(guest)}.`,
  'under-cost': ({ who, what, money }, { price, cost }) =>
    `${who} pays ${money(price)} for ${what}, which costs the shop ${money(cost)}.`,
  'free-goods': ({ who, what, money }, { regular }) =>
    regular === 0
      ? `${what} has a price of nothing.`
      : `${who} gets ${what} for nothing; it is ${money(regular)} otherwise.`,
  'goods-unseen': ({ what }) => `No tier finds ${what} or opens it.`,
  'categories-differ': ({ what, category }, { categories }) =>
    `${what} lies in ${categories.map(category).join(' and ')}, which have different gates: the strictest counts.`,
  'offer-for-nobody': ({ what }) => `Nobody can ever get ${what}: what it asks cannot be, or its days are over.`,
  'offer-never-wins': ({ who, what }) => `${what} never applies: whatever ${who} buys, something else is lower.`,
  'offers-tie': ({ what, offer }, { other }) =>
    `${what} and ${offer(other)} come to the same wherever both are to be had: only their order decides.`,
  'band-hole': ({ what, money }, { from, to }) =>
    `Between two steps of ${what} nothing holds: from ${from > 9999 ? money(from) : from} to ${to > 9999 ? money(to) : to}.`,
  'set-price-and-sale': ({ what, money, product }, { product: id, set, sale }) =>
    set > sale
      ? `${product(id)} is on sale at ${money(sale)}, under the ${money(set)} that ${what} sets: who has it pays the sale price.`
      : `${what} sets ${money(set)} for ${product(id)}, under its sale price of ${money(sale)}.`,
  'delivery-taxed-otherwise': ({ who }, { country, goods, delivery }) =>
    `For ${who}, delivery to ${placeName(placeOf(country))} is taxed at ${delivery} %, and goods at ${goods} %.`,
  'place-without-rate': (_, { country, orders, partly }) =>
    `${countryName(country)} has ${partly ? 'rates for parts of it alone' : 'no rate of its own'} and ${orders ? `is sent to in ${orders} ${orders === 1 ? 'order' : 'orders'}` : 'can be chosen at the till'}.`,
  'private-without-tax': ({ who }, { where }) =>
    `${who} reads prices without tax ${where.map(spot => showingSpots[spot]).join(' and ')}, at home, where tax is paid.`,
  'rate-unchanged': ({ what }, { since }) =>
    `The rate of ${what} was last written in ${new Date(since).toLocaleDateString('en-GB', { month: 'long', year: 'numeric' })}: look whether it still holds.`,
  'rounding-differs': ({ who, what, money }, { quantity, shown, paid, products }) =>
    `${who} reads ${money(shown)} for ${what}, and pays ${money(paid)} for ${quantity}, not ${money(shown * quantity)}: prices are shown rounded${products > 1 ? `, and it is so of ${products} goods` : ''}.`,
  'terms-change-nothing': ({ what, terms }, { by }) =>
    by === undefined
      ? `${what} says only what is so anyway.`
      : `${what} changes nothing: ${terms(by)} comes before it.`,
  'terms-for-nobody': ({ what }) => `Nobody can ever get ${what}: what it asks cannot be.`,
  'stock-without-price': ({ what }) => `${what} may count the stock and change no price, which the name promises.`,
}

const findingWords = ({ code, facts }: Finding, names: FindingNames): string =>
  (words[code] as (names: FindingNames, facts: unknown) => string)(names, facts)

/** The words with the names of the draft. */
export function useFindingWords() {
  const loft = useLoft()
  const product = (id: string) => loft.index.get('product', id)?.title ?? id
  const terms = (id: string) => termCalled(loft.draft.tax, id, loft.lexicon)
  const offer = (id: string) => loft.draft.offers?.find(one => one.id === id)?.name ?? id
  const whatOf = ({ place: { kind, key } }: Finding) => {
    if (!isEntryKind(kind)) return described({ kind: kind as Kind, id: key }, loft.index).title
    if (['exception', 'goods', 'shown'].includes(kind)) return terms(key)
    const rate = kind === 'rate' && loft.draft.tax?.rates?.find(one => one.id === key)
    if (rate) return rateName(rate)
    const entry = entriesOf(loft.draft).find(one => one.kind === kind && one.key === key)
    return (entry?.body as { name?: string } | undefined)?.name ?? key
  }
  return (found: Finding) =>
    findingWords(found, {
      who:
        loft.tiers.find(one => one.id === found.tier)?.name ??
        loft.draft.tiers?.find(one => one.id === found.tier)?.name ??
        found.tier,
      what: whatOf(found),
      money: minor => typedMoney(minor, loft.site.currency ?? 'EUR'),
      product,
      thing: one => `“${described(one, loft.index).title}”`,
      offer,
      terms,
      category: id => loft.index.get('category', id)?.title ?? id,
    })
}
