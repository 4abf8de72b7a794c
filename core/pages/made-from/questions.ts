/**
 * Everything a page asks about whoever looks at it besides what their rights are, by name: so that what a page turned on
 * can be asked again of somebody else, without making the page.
 */
import { waysIn } from '../../audit/ways-in'
import type { FactGroup } from '../../visitor/fact-group'
import { rightBit } from '../../gates/verdict'
import type { CompiledDecider } from '../../gates/compiled-decider'
import type { CompiledRules } from '../../gates/compiled'
import type { MenuItem } from '../../kinds/menu-item'
import { moduleOf, rights } from '../../kinds/kinds'
import type { Kind, Resource, Right } from '../../kinds/kinds'
import { targetThing } from '../../kinds/target'
import type { Treatment } from '../../rulebook/gate'
import { levelShown } from '../../rulebook/public-name'
import { languageFor, siteWords } from '../../site-words/site-words'
import type { SiteWords } from '../../site-words/site-words'
import { taxOf } from '../../tax/compiled-tax'
import type { ReaderWord } from '../../texts/passages'
import { foldedCode } from '../../visitor/given-code'
import { requestPrint } from '../../visitor/request-print'
import type { RequestFacts } from '../../visitor/request-print'
import type { AssembleAsk, PageSource } from './page-source'
import { wayName, waysTo } from './ways-to'
import type { Way } from '../../view/way'
import { wayBack } from '../../site/way-back'

export interface QuestionAsk extends Pick<AssembleAsk, 'rules' | 'decider' | 'path' | 'base' | 'back'> {
  source: Pick<PageSource, 'words' | 'spoken' | 'signUp' | 'forms'>
}

/** Milliseconds within which what would let somebody in is not worked out anew: a sentence, on which no access turns. */
const waysHoldMs = 60_000
const mostWaysKept = 10_000
/** Characters of what is known of a visitor: what somebody makes up to be long is not kept. */
const longestKept = 2000

export class PageQuestions {
  /** Names of all that was asked, each of which `answer` answers again. */
  readonly asked = new Set<string>()
  private said: SiteWords | undefined

  constructor(private readonly ask: QuestionAsk) {}

  private get decider(): CompiledDecider {
    return this.ask.decider
  }

  /** The same question again, as something to compare. */
  answer(name: string): unknown {
    const [kind, ...args] = name.split('\n') as [QuestionKind, ...string[]]
    return kinds[kind](this, ...args)
  }

  get path(): string {
    return this.ask.path
  }

  private note(kind: QuestionKind, ...args: string[]): void {
    this.asked.add([kind, ...args].join('\n'))
  }

  get words(): SiteWords {
    this.note('words')
    return (this.said ??= this.wordsFor())
  }

  private wordsFor(): SiteWords {
    const { rules, source, path, back } = this.ask
    const { words: settings, spoken } = source
    const { locale = 'en' } = rules.index.site
    if (!settings?.offered.length) return siteWords(settings, locale, () => this.decider.signedIn)
    const language = languageFor(settings, {
      locale,
      named: [this.decider.visitor.request?.query?.lang, this.languageAt(back ?? path)],
      spoken: offered => (spoken ? this.decider.language && spoken(offered) : this.decider.language),
    })
    return siteWords(settings, language, () => this.decider.signedIn)
  }

  /** What language the thing at an address is in, as it says itself or what it lies in; of what may not be known nothing. */
  languageAt(path: string): string | undefined {
    const { index } = this.ask.rules
    const thing = index.at(path)
    if (!thing) return undefined
    // In bits, which take no longer for what is hidden than for what is not there.
    if (!(this.decider.bits(thing) & (rightBit.find | rightBit.open))) return undefined
    const languageOf = (kind: string, id: string) =>
      (index.get(kind, id) as { language?: string } | undefined)?.language
    const [way = []] = moduleOf(thing.kind).ways?.(index.get(thing.kind, thing.id) as never, index) ?? []
    return [languageOf(thing.kind, thing.id), ...[...way].reverse().map(one => languageOf(one.on, one.id))].find(
      found => found !== undefined,
    )
  }

  /** Whether the reader has words of their own of this sort. */
  readerHas(what: ReaderWord): boolean {
    this.note('reader', what)
    if (!this.decider.signedIn) return false
    const { asker, rules } = this.decider
    const has: Record<ReaderWord, () => boolean> = {
      name: () => Boolean(this.decider.person?.name),
      levels: () =>
        (rules.rulebook.levels ?? []).some(level => asker.levels.has(level.id) && levelShown(level) !== null),
      firm: () => asker.firm !== undefined,
    }
    return has[what]()
  }

  /** Of an offer whether they gave it its code: asked while prices are made. */
  gaveCode(offer: string): boolean {
    this.note('code', offer)
    const code = this.ask.rules.rulebook.offers?.find(one => one.id === offer)?.code
    return code !== undefined && this.decider.gaveCode(offer, foldedCode(code))
  }

  /** Notes that the page turns on where they are: prices were made with it. */
  turnsOnPlace(): void {
    this.note('place')
  }
  /** Where they are, as far as what is taxed there differs. */
  get taxedAt(): string {
    return taxOf(this.ask.rules).placeKey(this.decider.whereabouts)
  }

  /** Whether they have a role of the staff. */
  get isStaff(): boolean {
    this.note('staff')
    const { asker, rules } = this.decider
    return (rules.rulebook.roles ?? []).some(role => role.staff && asker.roles.has(role.id))
  }

  /** What the address says behind its path, or where they came from, for what is asked for with the page. */
  requestPart<P extends 'query' | 'referrer'>(part: P): RequestFacts[P] {
    this.note('request', part)
    return this.decider.visitor.request?.[part]
  }

  /** What an address at which nothing stands answers. */
  atNowhere(path: string): Treatment {
    this.note('nowhere', path === this.ask.path ? '' : path)
    return this.decider.atNowhere(path).value
  }

  /** What would give them a right to a thing they may be told of. */
  ways(thing: Resource, right: Right = 'open'): Way[] {
    this.note('ways', thing.kind, thing.id, right)
    const { rules, source } = this.ask
    const { decider, words } = this
    const work = () =>
      waysTo({
        rules,
        visitor: decider.visitor,
        nowMs: decider.asker.at,
        finds: one => decider.decide(one).find,
        href: path => this.href(path),
        words,
        signIn: this.signIn,
        signUp: (source.signUp?.mode ?? 'open') === 'open' ? '/sign-up' : null,
        thing,
        right,
        forms: source.forms,
      })
    return keptWays(decider, `${right} ${rules.weaveOf(thing)} ${words.id} ${this.signIn}`, work)
  }

  /** The level or role that would unlock an entry of a menu; told of what may be found. */
  unlocks({ id, to }: Pick<MenuItem, 'id' | 'to'>): string | undefined {
    this.note('unlocks', id)
    const target = targetThing(to)
    if (!target) return undefined
    const { decider } = this
    const { rules } = this.ask
    return keptWays(decider, `unlocks ${rules.weaveOf(target)}`, () => {
      const ways = waysIn(rules, decider.visitor, target, decider.asker.at, {
        step: part => 'level' in part || 'role' in part,
        mostWays: 1,
        mostTries: 30,
      })
      return wayName(rules, ways) ?? undefined
    })
  }

  unlocksById(id: string): string | undefined {
    const item = this.ask.rules.index.get('menuItem', id)
    return item && this.unlocks(item)
  }

  /** In a walk nobody signs in: it leads back to where one is. */
  get signIn(): string {
    const { base = '', path } = this.ask
    return base ? base + path : `/sign-in?back=${wayBack(path)}`
  }

  private href(path: string): string {
    return path.startsWith('/') ? (this.ask.base ?? '') + path : path
  }
}

type QuestionKind = 'code' | 'place' | 'words' | 'reader' | 'staff' | 'request' | 'ways' | 'unlocks' | 'nowhere'
const kinds: Record<QuestionKind, (questions: PageQuestions, ...args: string[]) => unknown> = {
  code: (questions, offer) => questions.gaveCode(offer!),
  place: questions => questions.taxedAt,
  words: questions => questions.words.id,
  reader: (questions, what) => questions.readerHas(what as ReaderWord),
  staff: questions => questions.isStaff,
  request: (questions, part) => questions.requestPart(part as 'query' | 'referrer'),
  ways: (questions, kind, id, right) => questions.ways({ kind: kind as Kind, id: id! }, right as Right),
  nowhere: (questions, path) => questions.atNowhere(path || questions.path),
  unlocks: (questions, id) => questions.unlocksById(id!),
}

/** Everything rules look at of a visitor, and the minute. */
function who({ visitor, asker }: CompiledDecider, looks: ReadonlySet<FactGroup>): string {
  const { request, ...standing } = visitor
  return `${Math.floor(asker.at / waysHoldMs)} ${JSON.stringify(standing)} ${requestPrint(request, looks)}`
}
/** What was worked out under these rules, by whom for and by what; `size` of all. */
interface KeptWays {
  of: Map<string, Map<string, unknown>>
  size: number
  looks: ReadonlySet<FactGroup>
}
const kept = new WeakMap<CompiledRules, KeptWays>()
function keptIn(rules: CompiledRules): KeptWays {
  let found = kept.get(rules)
  if (!found) {
    const conditions = (rules.rulebook.gates ?? []).flatMap(gate => rights.flatMap(right => gate[right] ?? []))
    // A guard may wait for what stands behind the path, whatever its condition looks at.
    const looks = new Set<FactGroup>(['query', ...conditions.flatMap(one => [...rules.factsOfCondition(one)])])
    kept.set(rules, (found = { of: new Map(), size: 0, looks }))
  }
  return found
}

function oneMore(all: KeptWays): void {
  if (++all.size <= mostWaysKept) return
  all.of.clear()
  all.size = 1
}

const keptFor = new WeakMap<CompiledDecider, Map<string, unknown> | null>()
/** Null where the visitor is known too well. */
function keptOf(decider: CompiledDecider): Map<string, unknown> | null {
  let found = keptFor.get(decider)
  if (found === undefined) {
    const all = keptIn(decider.rules)
    const name = who(decider, all.looks)
    if (name.length > longestKept) found = null
    else if (!(found = all.of.get(name))) {
      oneMore(all)
      all.of.set(name, (found = new Map()))
    }
    keptFor.set(decider, found)
  }
  return found
}

function keptWays<T>(decider: CompiledDecider, key: string, work: () => T): T {
  const map = keptOf(decider)
  if (!map || key.length > longestKept) return work()
  if (map.has(key)) return map.get(key) as T
  const { asker, rules } = decider
  const missed = asker.missed.size
  const made = work()
  // What a service outside knows is asked for where it is missed, which an answer from before would hide.
  if (asker.missed.size !== missed) return made
  oneMore(keptIn(rules))
  map.set(key, made)
  return made
}
