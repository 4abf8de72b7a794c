/**
 * What one visitor is sent for one address: assembled from what the rules
 * admit and from nothing else. Whatever is refused never enters the view, so
 * it cannot reach HTML, headers, metadata or any other form of the page.
 */
import type { CompiledRules } from '../gates/compiled'
import type { Verdict } from '../gates/verdict'
import type { Resource } from '../kinds/kinds'
import type { Treatment } from '../rulebook/gate'
import type { Assembled, FeedEntry } from '../view/view'
import { entriesOf } from './feed-entries'
import { openedPage } from './opened-page'
import { PageContext } from './page-context'
import type { AssembleAsk } from './made-from/page-source'
import { refusedPage } from './refused-page'
import { waysBack } from './told'
import { canonical } from '../canonical'

export const assemble = (ask: AssembleAsk): Promise<Assembled> => assembledAt(new PageContext(ask))

/** Things as a feed tells of them to whoever may find them, with the words of those that open. */
export const assembleEntries = (ask: AssembleAsk, things: readonly Resource[]): Promise<FeedEntry[]> =>
  entriesOf(new PageContext(ask), things)

/**
 * What is not there and what is hidden are the same answer, from the same work: both are decided
 * by what the snapshot knows, and of neither is anything read.
 */
async function assembledAt(page: PageContext): Promise<Assembled> {
  const { index } = page.ask.rules
  const asked = index.at(page.ask.path)
  const decided = asked ?? someThing(page.ask.rules)
  const verdict = page.decider.decide(decided)
  // Of a refusal the plain reading picks the answer; where nothing is there to refuse it is asked all the same.
  if (!asked && verdict.open) page.decider.plainly.decide(decided)
  // What stands around the application's own pages is at no address.
  const apart = page.ask.own !== undefined || (asked && verdict.open)
  const nowhere: Treatment = apart ? { absent: true } : page.questions.atNowhere(page.ask.path)
  const treatment = (asked ? verdict.otherwise : nowhere) ?? { absent: true }
  if (!asked || (!verdict.open && isLikeNothing(verdict, treatment, nowhere) && !page.ask.writing)) {
    await page.read([])
    const missing = await refusedPage(page, null, treatment)
    const { back } = page.ask
    if (back !== undefined) missing.view.ways = await waysBack(page, back)
    return { ...missing, ...(asked ? { thing: asked, refused: true as const } : {}) }
  }
  if (verdict.open || verdict.find) page.shown = asked
  await page.read([asked, ...page.inside(asked)])
  if (verdict.open) return { ...(await openedPage(page, asked, verdict)), thing: asked }
  const refused = await refusedPage(page, asked, treatment)
  const whole = page.ask.writing ? { whole: (await openedPage(page, asked, verdict)).view } : {}
  return { ...refused, thing: asked, refused: true, ...whole }
}

/** Whether it must not be told from what is not there: it is said to be absent, or may not be found and gets what such addresses get. */
const isLikeNothing = ({ find }: Verdict, treatment: Treatment, nowhere: Treatment) =>
  'absent' in treatment || (!find && canonical(treatment) === canonical(nowhere))

/** A thing to decide about where none was found, so that both take the same time. */
function someThing({ index }: CompiledRules): Resource {
  return { kind: 'page', id: index.site.pages?.at(-1)?.id ?? '' }
}
