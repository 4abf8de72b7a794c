/** What stands at an address in place of what is refused there. */
import type { Resource } from '../kinds/kinds'
import type { Treatment } from '../rulebook/gate'
import { wayBack } from '../site/way-back'
import type { Assembled } from '../view/view'
import { aboutOf, trailOf } from './opened-page'
import type { PageContext } from './page-context'
import { dimmedBlock, standing, swapped } from './page-parts'
import { notice, told, waysTo } from './told'
import { nothingThere, pageOf } from './whole-page'

export async function refusedPage(page: PageContext, thing: Resource, treatment: Treatment): Promise<Assembled> {
  const status = page.decider.signedIn ? 403 : 401
  const found = page.decider.decide(thing).find
  const { title: own = thing.id } = page.ask.rules.index.get(thing.kind, thing.id) as { title?: string }
  const summary = String(page.contentOf(thing.kind, thing.id).summary ?? '')
  const title = found ? own : ''
  if ('teaser' in treatment)
    return pageOf(page, 200, {
      title: own,
      summary,
      blocks: [{ kind: 'teaser', title: own, summary, guest: page.guest, ...(await told(page, thing)) }],
      trail: trailOf(page, thing),
      about: aboutOf(page, thing, false),
    })
  if ('notice' in treatment)
    return pageOf(page, status, {
      title,
      blocks: [await notice(page, treatment.notice, thing)],
      trail: found ? trailOf(page, thing) : [],
    })
  if ('dimmed' in treatment)
    return pageOf(page, status, {
      title,
      blocks: standing(page, thing.kind, thing.id).map(row => dimmedBlock(row, treatment.dimmed)),
      ways: await waysTo(page, thing),
    })
  if ('swap' in treatment) {
    const blocks = await swapped(page, treatment.swap.block, new Set())
    return blocks.length ? pageOf(page, status, { title, blocks }) : nothingThere(page)
  }
  if ('redirect' in treatment) {
    const to = redirectTarget(page, treatment.redirect.to)
    return to
      ? { ...(await pageOf(page, 303, {})), redirect: page.base + withBack(to, page.ask.path) }
      : nothingThere(page)
  }
  return nothingThere(page)
}

/** A redirect that would lead back here, directly or through other refusals, leads nowhere. */
function redirectTarget(page: PageContext, to: string): string | null {
  const seen = new Set([page.ask.path])
  for (let path = to; ;) {
    const bare = path.split(/[?#]/)[0]!
    if (seen.has(bare)) return null
    seen.add(bare)
    const thing = page.ask.rules.index.at(bare)
    if (!thing) return to
    const verdict = page.decider.decide(thing)
    if (verdict.open || !verdict.otherwise || !('redirect' in verdict.otherwise)) return to
    path = verdict.otherwise.redirect.to
  }
}

const withBack = (to: string, back: string) => `${to}${to.includes('?') ? '&' : '?'}back=${wayBack(back)}`
