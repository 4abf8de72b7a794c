/** The places of the console, in the order of the bar. Adding one is a module and a line here. */
import { activity } from './activity'
import { door } from './door'
import { editions } from './editions'
import { people } from './people'
import { tabPath } from './place'
import type { Loft, Place, Tab } from './place'
import { reach } from './reach'
import { shop } from './shop'
import { site } from './site'
import { who } from './who'

export const places: readonly Place[] = [reach, site, shop, who, people, door, editions, activity]

export const tabsOf = (place: Place, loft: Loft): Tab[] => place.tabs?.filter(tab => tab.may(loft)) ?? []

/** The places the person may enter, each with where it leads: a place with tabs leads to the first they may see. */
export const mainPlaces = (loft: Loft) =>
  places
    .filter(place => place.may(loft))
    .map(place => {
      const tab = tabsOf(place, loft)[0]
      return {
        place,
        label: place.label,
        to: tab ? tabPath(place, tab.key) : place.path,
        count: place.count?.(loft) ?? 0,
      }
    })

/** Every place and tab, for finding. */
export const allPlaces = (loft: Loft): { label: string; to: string }[] =>
  mainPlaces(loft).flatMap(({ place, label, to }) => [
    { label, to },
    ...tabsOf(place, loft)
      .map(tab => ({ label: tab.label, to: tabPath(place, tab.key) }))
      .filter(tab => tab.to !== to && tab.to !== place.path),
  ])

/** Whether an address lies in a place. */
export const liesIn = ({ path, also = [] }: Place, at: string): boolean =>
  path === '/loft'
    ? at === '/loft' || at === '/loft/'
    : [path, ...also].some(root => at === root || at.startsWith(`${root}/`))
