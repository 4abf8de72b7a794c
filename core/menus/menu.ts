/** Which items of a menu a visitor sees, and how. */
// Which targets are things is known once the list of kinds is there.
import '../kinds/kinds'
import type { Resource } from '../kinds/kinds'
import { targetPlace, targetThing } from '../kinds/target'
import type { Menu, MenuItem } from '../kinds/menu-item'

export type ItemState = 'shown' | 'locked'
export interface MenuAsk {
  /** Whether the item's own gates find and open it. */
  ownAdmits(item: MenuItem): boolean
  opens(resource: Resource): boolean
  /** Asked only where it matters: what a page looks at says who may keep it. */
  signedIn(): boolean
}

/** The items that are not hidden, in the order of the list. */
export function menuFor(menu: Menu, ask: MenuAsk): { item: MenuItem; state: ItemState }[] {
  const items = new Map(menu.items.map(item => [item.id, item]))
  const children = (id: string) => menu.items.filter(item => item.under === id)
  const states = new Map<string, ItemState | 'hidden'>()

  const ownState = (item: MenuItem): ItemState | 'hidden' => {
    if (ask.ownAdmits(item) && targetOpens(item, ask)) return 'shown'
    const refused = item.whenRefused ?? menu.whenRefused ?? 'hide'
    return refused === 'hide' ? 'hidden' : refused === 'locked' ? 'locked' : 'shown'
  }
  const underHidden = (item: MenuItem, seen: Set<string>): boolean => {
    const above = item.under === undefined ? undefined : items.get(item.under)
    if (!above) return false
    if (seen.has(above.id)) return true
    return stateOf(above, new Set([...seen, above.id])) === 'hidden'
  }
  /** `seen` ends rings of `under`, which hide what lies on them. */
  const stateOf = (item: MenuItem, seen: Set<string>): ItemState | 'hidden' => {
    const known = states.get(item.id)
    if (known) return known
    const state = underHidden(item, seen) ? 'hidden' : ownState(item)
    states.set(item.id, state)
    return state
  }
  for (const item of menu.items) stateOf(item, new Set([item.id]))

  // An item without a target stands only for what lies under it, so leaves go first.
  const settle = (item: MenuItem): void => {
    const under = children(item.id)
    under.forEach(settle)
    if (!item.to && under.every(child => states.get(child.id) === 'hidden')) states.set(item.id, 'hidden')
  }
  menu.items.filter(item => item.under === undefined || !items.has(item.under)).forEach(settle)

  return menu.items.flatMap(item => {
    const state = states.get(item.id)!
    return state === 'hidden' ? [] : [{ item, state }]
  })
}

function targetOpens(item: MenuItem, ask: MenuAsk): boolean {
  // Nobody has an account before they are in.
  if (targetPlace(item.to) === 'account' && !ask.signedIn()) return false
  const target = item.follow === false ? null : targetThing(item.to)
  return target === null || ask.opens(target)
}
