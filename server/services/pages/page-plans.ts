/** What is known of the pages of an edition: by whom asks, the key of the page that was made for somebody like them. */
import { LRUCache } from 'lru-cache'
import type { FactGroup } from '../../../core/visitor/fact-group'
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import type { Resource } from '../../../core/kinds/kinds'
import { PagePlan } from '../../../core/pages/made-from/page-plan'
import type { QuestionAsk } from '../../../core/pages/made-from/questions'
import type { Snapshot } from '../live/snapshot'
import { pageSource } from './page-view'
import type { SentView, ViewAsk } from './page-view'

/** All that an answer takes besides the bytes. */
export interface PlannedPage {
  key: string
  status: number
  siteName: string
  facts: ReadonlySet<FactGroup>
  /** It has places for the visitor's own words. */ slots: boolean
  thing?: Resource
  refused?: true
}

/** Addresses whose plans are kept: those asked for lately. */
const mostPlans = 5000
/** Characters of all that was learned, the least used going first, and of what one visitor is answered. */
const mostLearned = 16_000_000
const longestAnswers = 6000
/** What is not there is one page, wherever it is asked for. */
const nowhere = ''

/** A plan that is made anew asks other things first: nothing of the one before is taken for its own. */
let made = 0
interface Plans {
  of: LRUCache<string, PagePlan<PlannedPage>>
  learned: LRUCache<string, PlannedPage>
}
/** A plan is of one snapshot: another edition, other settings, and nothing of it is left. */
const plans = new WeakMap<Snapshot, Plans>()
function planOf(snapshot: Snapshot, path: string): PagePlan<PlannedPage> {
  let all = plans.get(snapshot)
  if (!all) {
    const learned = new LRUCache<string, PlannedPage>({
      maxSize: mostLearned,
      maxEntrySize: longestAnswers,
      sizeCalculation: (_, key) => key.length + 300,
    })
    plans.set(snapshot, (all = { of: new LRUCache({ max: mostPlans }), learned }))
  }
  const key = snapshot.rules.index.at(path) ? path : nowhere
  let plan = all.of.get(key)
  if (!plan) all.of.set(key, (plan = new PagePlan<PlannedPage>(all.learned, String(++made))))
  return plan
}

type Ask = Pick<ViewAsk, 'snapshot' | 'decider' | 'path' | 'spoken'>
const questionAsk = ({ snapshot, decider, path, spoken }: Ask): QuestionAsk => ({
  rules: snapshot.rules,
  decider,
  source: pageSource({ snapshot, spoken }),
  path,
})

/** Nothing is read for it. */
export const plannedPage = (ask: Ask): PlannedPage | undefined => planOf(ask.snapshot, ask.path).find(questionAsk(ask))

/** What of a visitor the page turns on, as far as it was learned. */
export const planLooks = (snapshot: Snapshot, path: string): ReadonlySet<FactGroup> => planOf(snapshot, path).looks

/** `decider`: fresh, as it was before the page was made for it. */
export function learnPage(ask: Ask & { decider: CompiledDecider }, made: SentView, key: string): void {
  const { view, facts, thing, refused, slots } = made
  planOf(ask.snapshot, ask.path).learn(questionAsk(ask), made, {
    key,
    status: view.status,
    siteName: view.siteName,
    facts: new Set(facts),
    slots: slots.used,
    ...(thing ? { thing } : {}),
    ...(refused ? { refused } : {}),
  })
}
