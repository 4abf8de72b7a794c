/** What somebody is told of what they do not get: that it exists, and what would let them in. */
import { chainOf, gatesOf } from '../gates/chain'
import { insideOthers } from '../kinds/kinds'
import type { Resource } from '../kinds/kinds'
import type { Notice } from '../rulebook/gate'
import type { ViewBlock } from '../view/view'
import type { Way } from '../view/way'
import type { PageContext } from './page-context'

/**
 * Whether the visitor may be told of a thing at all: of what may be found. What stands in a page is found with it,
 * and told by what stands in its place, unless a gate says apart who finds it.
 */
function mayBeTold(page: PageContext, thing: Resource): boolean {
  const { rules } = page.ask
  if (!insideOthers.has(thing.kind)) return page.decider.decide(thing).find
  const chain = chainOf(thing, rules.gates, rules.index)
  const place = chain?.standsIn
  if (!chain || (place && place !== 'open' && !page.decider.decide(place).open)) return false
  return gatesOf(chain).every(({ gate }) => !gate.find || page.decider.admitsOrKey(gate.find))
}

/** What would let the visitor in to a thing they may find; told of every weave once. */
export async function waysTo(page: PageContext, thing: Resource): Promise<Way[]> {
  const { decider } = page
  if (!mayBeTold(page, thing)) return []
  // What they are told depends on who they are.
  decider.turnsOn('person')
  const weave = page.ask.rules.weaveOf(thing)
  const known = page.ways.get(weave)
  if (known) return known
  const told = page.questions.ways(thing)
  page.ways.set(weave, told)
  return told
}

/** What would let the visitor in to where they came from to sign in. */
export async function waysBack(page: PageContext, path: string): Promise<Way[]> {
  const thing = page.ask.rules.index.at(path)
  return thing && !page.decider.decide(thing).open ? waysTo(page, thing) : []
}

export async function told(page: PageContext, thing: Resource): Promise<{ ways?: Way[] }> {
  const ways = await waysTo(page, thing)
  return ways.length ? { ways } : {}
}

/** `thing`: null where nothing of it may be told. */
export async function notice(page: PageContext, notice: Notice, thing: Resource | null): Promise<ViewBlock> {
  const ways = thing ? await told(page, thing) : {}
  return { kind: 'notice', ...noticeWords(page, notice), guest: page.guest, ...ways }
}

const noticeWords = (page: PageContext, { text, link, words }: Notice) => ({
  text,
  ...(link ? { link: page.href(link), ...(words ? { words } : {}) } : {}),
})

/** Words of the operator's, or the site's own; and what would let them. */
export async function notSold(page: PageContext, product: Resource): Promise<ViewBlock[]> {
  const verdict = page.decider.decide(product)
  if (verdict.take) return []
  const right = verdict.price ? 'take' : 'price'
  const words = verdict.takeNotice ?? { text: page.say(verdict.price ? 'goods.not-sold' : 'goods.untold') }
  // What they are told depends on who they are.
  page.decider.turnsOn('person')
  const ways = mayBeTold(page, product) ? page.questions.ways(product, right) : []
  return [
    {
      kind: 'notice',
      ...noticeWords(page, words),
      guest: page.guest,
      ...(ways.length ? { ways, to: right } : {}),
    },
  ]
}
