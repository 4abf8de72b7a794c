/** What stands at an address in place of what is refused there. */
import { ledTo } from '../gates/led-to'
import type { Resource } from '../kinds/kinds'
import type { DimmedPart, Treatment } from '../rulebook/gate'
import { wayBack } from '../site/way-back'
import { leadsOutside } from '../site/leads'
import type { Assembled, ViewBlock } from '../view/view'
import { aboutOf, trailOf } from './opened-page'
import type { PageContext } from './page-context'
import { dimmedBlock, standing, swapped } from './page-parts'
import { notice, told, waysTo } from './told'
import { nothingThere, pageOf } from './whole-page'

/** `thing`: null where nothing stands, or something of which nothing may be told. */
export async function refusedPage(page: PageContext, thing: Resource | null, treatment: Treatment): Promise<Assembled> {
  const status = page.decider.signedIn ? 403 : 401
  if ('redirect' in treatment) return ledElsewhere(page, treatment.redirect.to)
  if ('swap' in treatment) return swappedPage(page, thing, treatment.swap.block)
  if (!thing) return untold(page, status, treatment)
  const title = titleOf(page, thing)
  if ('teaser' in treatment) {
    const { title: own = thing.id } = page.ask.rules.index.get(thing.kind, thing.id) as { title?: string }
    const summary = String(page.contentOf(thing.kind, thing.id).summary ?? '')
    return pageOf(page, 200, {
      title: own,
      summary,
      blocks: [{ kind: 'teaser', title: own, summary, guest: page.guest, ...(await told(page, thing)) }],
      trail: trailOf(page, thing),
      about: aboutOf(page, thing, false),
    })
  }
  if ('notice' in treatment)
    return pageOf(page, status, {
      title,
      blocks: [await notice(page, treatment.notice, thing)],
      trail: title ? trailOf(page, thing) : [],
    })
  if ('dimmed' in treatment)
    return pageOf(page, status, {
      title,
      blocks: standing(page, thing.kind, thing.id).map(row => dimmedBlock(page, row, outlined(treatment.dimmed))),
      ways: await waysTo(page, thing),
    })
  return nothingThere(page)
}

/** Of a page that is refused as a whole no picture is sent, be it one that stands in it: of each the outline. */
const outlined = (how: true | { keep: DimmedPart[] }) =>
  how === true ? how : { keep: how.keep.map(part => (part === 'sight' ? 'picture' : part)) }

/** Its title, where it may be found. */
function titleOf(page: PageContext, thing: Resource): string {
  const { title = thing.id } = page.ask.rules.index.get(thing.kind, thing.id) as { title?: string }
  return page.decider.decide(thing).find ? title : ''
}

/** The same bytes for all of it: no title, nothing that would let somebody in to it, and nothing of its shape. */
async function untold(page: PageContext, status: number, treatment: Treatment): Promise<Assembled> {
  page.nowhere = true
  if ('teaser' in treatment)
    return pageOf(page, 200, { blocks: [{ kind: 'teaser', title: '', summary: '', guest: page.guest }] })
  if ('notice' in treatment) return pageOf(page, status, { blocks: [await notice(page, treatment.notice, null)] })
  return nothingThere(page)
}

async function swappedPage(page: PageContext, thing: Resource | null, block: string): Promise<Assembled> {
  page.nowhere ||= !thing
  const blocks = await swapped(page, block, new Set())
  const title = thing ? titleOf(page, thing) : ''
  return blocks.length ? pageOf(page, page.decider.signedIn ? 403 : 401, { title, blocks }) : nothingThere(page)
}

async function ledElsewhere(page: PageContext, wanted: string): Promise<Assembled> {
  const to = redirectTarget(page, wanted)
  if (!to) return nothingThere(page)
  if (!leadsOutside(to)) return { ...(await pageOf(page, 303, {})), redirect: page.base + withBack(to, page.ask.path) }
  // A walk stays in its frame, which shows this site only. Where they came from is nobody else's to know.
  if (page.base) return pageOf(page, 200, { blocks: [leadsTo(to, page.guest)] })
  return { ...(await pageOf(page, 303, {})), redirect: to }
}

const leadsTo = (to: string, guest: boolean): ViewBlock => ({
  kind: 'notice',
  text: `They are led to another site from here: ${to}`,
  guest,
  link: to,
})

/** A redirect that would lead back here, directly or through other refusals, leads nowhere. */
const redirectTarget = (page: PageContext, to: string): string | null =>
  ledTo(
    to,
    path => {
      const thing = page.ask.rules.index.at(path)
      return thing ? page.decider.decide(thing).otherwise : page.questions.atNowhere(path)
    },
    [page.ask.path],
  )

const withBack = (to: string, back: string) => `${to}${to.includes('?') ? '&' : '?'}back=${wayBack(back)}`
