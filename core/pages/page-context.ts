/**
 * What all parts of one page are assembled with: who asks, by which rules, in which words; and what is noted on the way.
 */
import { dayWords } from '../calendar'
import type { Condition } from '../conditions/condition'
import type { CompiledDecider } from '../gates/compiled-decider'
import type { Kind, Resource } from '../kinds/kinds'
import { moneyWords } from '../money'
import { pictureAddress, saidWithPage } from '../pictures/picture-file'
import type { WordKey } from '../site-words/english'
import { sayWord } from '../site-words/site-words'
import type { SiteWords } from '../site-words/site-words'
import type { Shown } from '../site/around'
import { wayBack } from '../site/way-back'
import type { ReaderWord } from '../texts/passages'
import type { Way } from '../view/way'
import type { FactGroup } from '../visitor/fact-group'
import type { GoodsView } from './goods/goods-view'
import type { AssembleAsk } from './made-from/page-source'
import { PageQuestions } from './made-from/questions'

export class PageContext {
  readonly facts: ReadonlySet<FactGroup>
  readonly base: string
  readonly decider: CompiledDecider
  readonly questions: PageQuestions
  readonly words: SiteWords
  /** It holds what is about the visitor alone. */
  personal = false
  /** What is not there is one page, wherever it is: where that is, is put into what is sent. */
  nowhere = false
  /** What would let the visitor in, by weave: told of each once. */
  readonly ways = new Map<number, Way[]>()
  /** What the page shows that may be known of: parts of the frame stand around it. */
  shown: Shown
  shownGoods: GoodsView | undefined

  constructor(readonly ask: AssembleAsk) {
    this.base = ask.base ?? ''
    this.shown = ask.own === undefined ? null : { own: ask.own }
    this.decider = ask.decider
    this.facts = this.decider.watch()
    this.questions = new PageQuestions(ask)
    this.words = this.questions.words
  }

  say(key: WordKey, facts?: Record<string, string>): string {
    return sayWord(this.words, key, facts)
  }

  get guest(): boolean {
    return !this.decider.signedIn
  }

  href(path: string): string {
    return path.startsWith('/') ? this.base + path : path
  }

  /** Everything that stands in a thing, at any depth; for the frame, in its parts. */
  inside({ kind, id }: { kind: string; id: string }, found: Resource[] = []): Resource[] {
    for (const block of this.ask.rules.index.standingIn(kind, id)) {
      const inner: Resource = { kind: 'block', id: block.id }
      found.push(inner)
      this.inside(inner, found)
    }
    return found
  }

  /** Reads the content of things, and of what stands in the frame, in one question. */
  async read(things: readonly Resource[]): Promise<void> {
    const frame = (['header', 'banner', 'footer'] as const).flatMap(id => this.inside({ kind: 'frame', id }))
    await this.ask.source.read([...frame, ...things])
  }

  contentOf(kind: Kind, id: string): Record<string, unknown> {
    return this.ask.source.content(kind, id) ?? {}
  }

  text(thing: Resource, markdown: string): string {
    const { source, writing } = this.ask
    const kept = (this.ask.rules.index.get(thing.kind as string, thing.id) ?? {}) as {
      passages?: (Condition | null)[]
      broken?: true
    }
    const told = source.passages?.(thing)
    const conditions = told === undefined ? (kept.broken ? null : (kept.passages ?? [])) : told
    return source.text(markdown, {
      base: this.base,
      admitted: conditions && conditions.map(one => one !== null && this.decider.admitsOrKey(one)),
      reader: what => this.reader(what),
      ...(writing ? { marked: true } : {}),
    })
  }

  /** Words of the reader's own: the view has a mark for them, where they have any. */
  reader(what: ReaderWord): string | null {
    return this.questions.readerHas(what) ? this.ask.source.mark(what) : null
  }

  pictureAt(thing: Resource, name: string): string {
    const { source } = this.ask
    return source.picture?.(thing, name) ?? this.base + pictureAddress(thing, name) + this.saidAgain
  }

  /** What a browser says again when it asks for what stands on the page: only where the page turned on it. */
  get saidAgain(): string {
    const { facts, questions } = this
    return saidWithPage({
      query: facts.has('query') ? questions.requestPart('query') : undefined,
      referrer: facts.has('referrer') ? questions.requestPart('referrer') : undefined,
    })
  }

  /** In a walk nobody signs in: it leads back to where one is. */
  get signIn(): string {
    if (this.base) return this.ask.path
    return `/sign-in?back=${this.nowhere ? this.ask.source.mark('back') : wayBack(this.ask.path)}`
  }

  /** An amount in minor units, as people of the site read it. */
  money(minor: number): string {
    return moneyWords(minor, this.ask.rules.index.site.currency, this.words.locale)
  }

  /** A local date, as people of the site read it. */
  day(date: string): string {
    return dayWords(date, this.words.locale)
  }
}
