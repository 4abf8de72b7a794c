/** Goods as a page shows them: what they cost whom, what can be chosen, and what stands in place of what is not sold. */
import type { GoodsShown, PriceShown, ShelfShown } from '../../view/shelf-shown'
import type { Product } from '../../kinds/product'
import type { QuickPrice, Pricer } from '../../shop/pricer'
import { shelfSorts } from '../../shop/shelf'
import type { Shelf, ShelfSort } from '../../shop/shelf'

export interface PriceTools {
  /** An amount as typed, as it shows in lists, in words; `note`: words behind a price. */
  tell(product: string, minor: number): { words: string; note: string }
  day(date: string): string
}

/** `sale`: of the product, for telling until when. */
export function shownPrice(
  {
    id,
    unit,
    regular,
    onSale,
    won,
    several = false,
  }: Pick<QuickPrice, 'unit' | 'regular' | 'onSale' | 'won'> & { id: string; several?: boolean },
  { tell, day }: PriceTools,
  sale?: Product['sale'],
): PriceShown {
  const code = won.find(offer => offer.code !== undefined)?.codeAsWritten
  const { words, note } = tell(id, unit)
  return {
    now: words,
    ...(note ? { note } : {}),
    ...(unit < regular ? { was: tell(id, regular).words } : {}),
    ...(onSale && sale?.until ? { until: day(sale.until) } : {}),
    ...(several ? { from: true } : {}),
    ...(code === undefined ? {} : { code }),
  }
}

/** Where a piece costs less, from so many on. */
export const shownSteps = (id: string, pricer: Pricer, { tell }: Pick<PriceTools, 'tell'>): GoodsShown['steps'] =>
  pricer
    .ladder(id)
    .slice(1)
    .map(({ from, unit }) => ({ from, price: tell(id, unit).words }))

/** What a shelf is asked for, as it stands behind the path: `sort=price&only=colour:moss,size:M&page=2`. What is not understood is not there. */
export function readShelfQuery(query: Readonly<Record<string, string>> = {}): {
  sort: ShelfSort
  only: Record<string, string>
  page: number
} {
  const sort = shelfSorts.find(one => one === query.sort) ?? 'shown'
  const only: Record<string, string> = Object.create(null)
  for (const pair of (query.only ?? '').slice(0, 400).split(',').slice(0, 5)) {
    const colon = pair.indexOf(':')
    if (colon > 0) only[pair.slice(0, colon)] = pair.slice(colon + 1)
  }
  const page = /^[1-9]\d{0,5}$/.test(query.page ?? '') ? Number(query.page) : 1
  return { sort, only, page }
}

/** The links of a shelf. `href`: of the page itself. */
export function shownShelf(shelf: Shelf, asked: ReturnType<typeof readShelfQuery>, href: string): ShelfShown {
  const link = (changed: Partial<typeof asked>) => {
    const { sort, only, page } = { ...asked, page: 1, ...changed }
    const pairs = Object.entries(only).map(([name, value]) => `${name}:${value}`)
    const query = new URLSearchParams({
      ...(sort === 'shown' ? {} : { sort }),
      ...(pairs.length ? { only: pairs.join(',') } : {}),
      ...(page > 1 ? { page: String(page) } : {}),
    }).toString()
    return query ? `${href}?${query}` : href
  }
  const { facets, page, pages, total, priced } = shelf
  const without = (name: string) => Object.fromEntries(Object.entries(asked.only).filter(([one]) => one !== name))
  const sorts = shelfSorts.filter(sort => priced || !sort.startsWith('price'))
  return {
    total,
    page,
    pages,
    sorts: total > 1 ? sorts.map(sort => ({ sort, href: link({ sort }), here: sort === asked.sort })) : [],
    facets: facets.map(({ name, values }) => ({
      name,
      values: values.map(value => {
        const here = asked.only[name] === value
        return { value, here, href: link({ only: here ? without(name) : { ...asked.only, [name]: value } }) }
      }),
    })),
    ...(Object.keys(asked.only).length ? { all: link({ only: {} }) } : {}),
    ...(page > 1 ? { before: link({ page: page - 1 }) } : {}),
    ...(page < pages ? { after: link({ page: page + 1 }) } : {}),
  }
}
