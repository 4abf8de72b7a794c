/** Around which things a part of the site's frame stands. Where it stands is no right: it must open besides. */
import { standingFrame } from '../kinds/block'
import type { AroundPlace, Block, FramePart, OwnShown } from '../kinds/block'
import { moduleOf } from '../kinds/kinds'
import type { Kind, Resource } from '../kinds/kinds'
import type { SiteIndex } from './site-index'

/** What is shown: a thing, one of the site's own pages, or nothing that anybody may know of. */
export type Shown = Resource | { own: OwnShown } | null

/** The page people land on is theirs, though the operator writes it. */
const accountPath = '/account'

function isIn(place: AroundPlace, shown: Shown, index: SiteIndex): boolean {
  if (!shown) return false
  if ('own' in place) {
    if ('own' in shown) return shown.own === place.own
    return place.own === 'account' && index.pathOf(shown.kind, shown.id) === accountPath
  }
  if ('own' in shown) return false
  if ('kind' in place) return shown.kind === place.kind
  const { below = false, ...named } = place as Record<string, unknown>
  const [kind, id] = Object.entries(named)[0] as [string, string]
  if (shown.kind === kind && shown.id === id) return true
  const thing = index.find(shown) as never
  if (!thing) return false
  const { ways, before } = moduleOf(shown.kind as Kind)
  const steps = [...(ways?.(thing, index).flat() ?? []), ...(before?.(thing) ? [before(thing)!] : [])]
  return steps.some(step => step.on === kind && step.id === id && (step.scope !== 'below' || below === true))
}

function standsAround(block: Block, shown: Shown, index: SiteIndex): boolean {
  const { around, not = [] } = standingFrame(block.in) ?? {}
  if (around && !around.some(place => isIn(place, shown, index))) return false
  return !not.some(place => isIn(place, shown, index))
}

/** Parts of the frame that stand around it, in the order of the site, whether they open or not. */
export const partsAround = (index: SiteIndex, frame: FramePart, shown: Shown): Block[] =>
  index.standingIn('frame', frame).filter(block => standsAround(block, shown, index))
