/** The places of the console, in the order of the bar. Adding one is a module and a line here. */
import { activity } from '~/loft/activity/place'
import { tabPath, tabsOf } from '~/loft/core/place'
import type { Loft, Place } from '~/loft/core/place'
import type { Withheld } from '~/loft/core/seen-as-role'
import { door } from '~/loft/door/place'
import { editions } from '~/loft/editions/place'
import { people } from '~/loft/people/place'
import { reach } from '~/loft/reach/place'
import { shop } from '~/loft/shop/place'
import { site } from '~/loft/site/place'
import { who } from '~/loft/who/place'

export const places: readonly Place[] = [reach, site, shop, who, people, door, editions, activity]

/** What the bar asks is not what the screen below it asks. */
function apart<T>(loft: Loft, work: () => T): T {
  const answered: T[] = []
  loft.withheldIn(() => answered.push(work()))
  return answered[0]!
}

/** The places the person may enter, each with where it leads: a place with tabs leads to the first they may see. */
export const mainPlaces = (loft: Loft) =>
  apart(loft, () =>
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
      }),
  )

/** Places and tabs the person may not enter, each with what would let them in: any of it. */
export const shutPlaces = (loft: Loft): { label: string; lacks: Withheld[] }[] =>
  places.flatMap(place => {
    const lacks = loft.withheldIn(() => place.may(loft))
    if (!apart(loft, () => place.may(loft))) return [{ label: place.label, lacks }]
    return (place.tabs ?? []).flatMap(tab => {
      const missing = loft.withheldIn(() => tab.may(loft))
      return apart(loft, () => tab.may(loft)) ? [] : [{ label: `${place.label}, ${tab.label}`, lacks: missing }]
    })
  })

/** Every place and tab, for finding. */
export const allPlaces = (loft: Loft): { label: string; to: string; called?: string | undefined }[] =>
  mainPlaces(loft).flatMap(({ place, label, to }) => [
    { label, to, called: place.called },
    ...apart(loft, () => tabsOf(place, loft))
      .map(tab => ({ label: tab.label, to: tabPath(place, tab.key), called: tab.called }))
      .filter(tab => tab.to !== to && tab.to !== place.path),
  ])

/** Whether an address lies in a place. Below that of the first lie all others. */
export const liesIn = ({ path, also = [] }: Place, at: string): boolean =>
  path === reach.path
    ? [path, `${path}/`, ...also].includes(at)
    : [path, ...also].some(root => at === root || at.startsWith(`${root}/`))
