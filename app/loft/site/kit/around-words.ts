/** Around what a part of the frame stands, in words. */
import { ownShown } from '~~/core/kinds/block'
import type { AroundPlace, InFrame, OwnShown } from '~~/core/kinds/block'
import type { Kind } from '~~/core/kinds/kinds'
import { kindPlurals } from '~~/core/sentences/words'
import type { SiteIndex } from '~~/core/site/site-index'

const ownWords: Record<OwnShown, string> = {
  account: 'the account',
  shop: 'basket, till and orders',
  search: 'the search',
  entrance: 'signing in and up',
}
/** Kinds of which something is shown at an address. */
const shownKinds = ['page', 'post', 'category', 'product'] as const

/** What lies in one, by what it is; of what holds nothing its title says it all. */
const said: Record<string, (title: string) => string> = {
  topic: title => `posts about ${title}`,
  folder: title => `downloads in ${title}`,
  category: title => `${title} and all in it`,
}
const below = (title: string) => `${title} and all below it`

export function placeWords(place: AroundPlace, index: SiteIndex): string {
  if ('own' in place) return ownWords[place.own]
  if ('kind' in place) return `all ${kindPlurals[place.kind as Kind].toLowerCase()}`
  const [kind, id] = Object.entries(place).find(([key]) => key !== 'below') as [string, string]
  const title = (index.get(kind, id) as { title?: string } | undefined)?.title ?? id
  return (place.below ? below : said[kind])?.(title) ?? title
}

export function aroundWords({ around, not = [] }: InFrame, index: SiteIndex): string {
  const listed = (places: readonly AroundPlace[]) => places.map(one => placeWords(one, index)).join(', ')
  const but = not.length ? `, but not around ${listed(not)}` : ''
  return around ? `around ${listed(around)}${but}` : `on every page${but}`
}

/** What can be named without being searched for. */
export const plainPlaces: AroundPlace[] = [...shownKinds.map(kind => ({ kind })), ...ownShown.map(own => ({ own }))]
