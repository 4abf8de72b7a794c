/** The menu as one visitor gets it. */
import { rightBit } from '../gates/verdict'
import type { MenuItem } from '../kinds/menu-item'
import { targetPlace, targetThing } from '../kinds/target'
import { menuFor } from '../menus/menu'
import type { ViewItem } from '../view/view'
import type { PageContext } from './page-context'

/** Where members have what is their own, where the site has a page there. */
const homePath = '/account'

export function menuOf(page: PageContext, id: string): ViewItem[] {
  const menu = page.ask.rules.index.get('menu', id)
  if (!menu) return []
  const seen = menuFor(menu, {
    ownAdmits: item => {
      const { find, open } = page.decider.decide({ kind: 'menuItem', id: item.id })
      return find && open
    },
    opens: resource => (page.decider.bits(resource) & rightBit.open) !== 0,
    signedIn: () => page.decider.signedIn,
  })
  const shownItems = new Map(seen.map(({ item, state }) => [item.id, { item, state }]))
  const under = (parent: string | undefined): ViewItem[] =>
    seen
      .filter(({ item }) => (item.under && shownItems.has(item.under) ? item.under : undefined) === parent)
      .map(({ item, state }) => {
        const path = targetPath(page, item)
        // Whoever is in is told the way out, which is something done and no place.
        const wayOut = targetPlace(item.to) === 'entrance' && page.decider.signedIn
        if (wayOut && state === 'shown')
          return {
            label: item.labelIn ?? page.say('part.sign-out'),
            locked: false,
            here: false,
            items: under(item.id),
            wayOut,
          }
        return {
          label: item.label,
          ...(state === 'shown' && path ? { href: page.href(path) } : {}),
          locked: state === 'locked',
          ...(state === 'locked' ? unlockedBy(page, item) : {}),
          here: !page.nowhere && path === page.ask.path,
          ...(targetPlace(item.to) === 'basket' && state === 'shown' ? { count: basketCount(page) } : {}),
          items: under(item.id),
        }
      })
  return under(undefined)
}

/** The level or role that would unlock an entry; told where what it leads to may be found. */
function unlockedBy(page: PageContext, item: MenuItem): { from?: string } {
  const target = targetThing(item.to)
  if (!target || !page.decider.decide(target).find) return {}
  const from = page.questions.unlocks(item)
  return from ? { from } : {}
}

/** How much lies in it stands in no kept page: which browser it is of, a shared cache tells by its cookies. */
function basketCount(page: PageContext): string {
  page.decider.turnsOn('basket')
  return page.ask.source.mark('basket')
}

function targetPath(page: PageContext, item: MenuItem): string | undefined {
  if (!item.to) return undefined
  if (item.to.url !== undefined) return item.to.url
  const { index } = page.ask.rules
  const own = targetPlace(item.to)
  if (own === 'entrance') return page.signIn
  if (own === 'basket') return page.base ? undefined : '/basket'
  if (own === 'account') return index.at(homePath) ? homePath : '/account/profile'
  const target = targetThing(item.to)
  return target ? index.pathOf(target.kind, target.id) : undefined
}
