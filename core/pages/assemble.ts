/**
 * What one visitor is sent for one address: assembled from what the rules
 * admit and from nothing else. Whatever is refused never enters the view, so
 * it cannot reach HTML, headers, metadata or any other form of the page. Where
 * contents are read from is the caller's: the site's server, or the console
 * that shows its draft.
 */
import type { CompiledDecider } from '../gates/compiled-decider'
import type { CompiledRules } from '../gates/compiled'
import { hasPrice, rightBit } from '../gates/verdict'
import type { Verdict } from '../gates/verdict'
import type { FactGroup } from '../visitor/fact-group'
import type { DimmedPart, Notice, Treatment } from '../rulebook/gate'
import { chainOf, gatesOf } from '../gates/chain'
import { insideOthers, moduleOf } from '../kinds/kinds'
import type { Kind, Resource } from '../kinds/kinds'
import type { Block } from '../kinds/block'
import type { MenuItem } from '../kinds/menu-item'
import { menuFor } from '../menus/menu'
import { targetPlace, targetThing } from '../kinds/target'
import { dayWords } from '../calendar'
import { moneyWords } from '../money'
import type { Condition } from '../conditions/condition'
import type { ReaderWord, Rendering } from '../texts/passages'
import { fetchAddress, readFileName, sizeWords } from '../files/stored-file'
import { goodsIn } from '../shop/shelf'
import { codeShown, codesPlace } from './codes-view'
import { GoodsView } from './goods-view'
import { pictureAddress, saidWithPage, shownPicture } from '../pictures/picture-file'
import { blockModule, shownBlock } from '../blocks/blocks'
import type { BlockKind } from '../blocks/blocks'
import type { PanelSort } from '../blocks/panel-sorts'
import { openedThing } from './opened'
import { PageQuestions } from './questions'
import type { Way } from '../view/way'
import type { Panel } from '../view/panel'
import { lookSheet, markOf } from '../site/look'
import type { SiteLook } from '../site/look'
import { isWordKey, sayWord } from '../site-words/site-words'
import type { SiteWords, WordsSettings } from '../site-words/site-words'
import type { WordKey } from '../site-words/english'
import type {
  Assembled,
  FeedEntry,
  Listed,
  ListedFile,
  PageAbout,
  PageView,
  SignUpForm,
  ViewBlock,
  ViewItem,
  ViewTools,
} from '../view/view'
import { wayBack } from '../site/way-back'

/** Words that are a visitor's own: the view has a mark for each, filled in what is sent. */
export type SlotName = 'name' | 'roles' | 'levels' | 'firm' | 'back' | 'basket'

/** What a view is made from besides rules. */
export interface PageSource {
  /** Makes sure that the contents of these things are known, in one question. */
  read(things: readonly Resource[]): Promise<void>
  /** What only somebody admitted is shown of a thing, once it was read; nothing where it may not be known. */
  content(kind: Kind, id: string): Record<string, unknown> | undefined
  /** A text as HTML. */
  text(markdown: string, rendering: Rendering): string
  /** Whom the passages of a text are for; null where the text is kept from everybody. Default: as it was kept. */
  passages?(thing: Resource): readonly (Condition | null)[] | null | undefined
  mark(name: SlotName): string
  /** What a panel says of the visitor; null where it has nothing to show. */
  panel(shows: PanelSort, tools: { href: (path: string) => string; words: SiteWords }): Promise<Panel | null>
  /** Levels and roles that can be applied for, and where. */
  /** What signing up asks. Default: nothing but a name, an address and a password. */
  signUp?: SignUpForm
  /** Where a stored picture of a thing is served. Default: at its address on the site. */
  picture?(thing: Resource, name: string): string
  /** How the site looks. Default: as it comes. */
  look?: SiteLook | undefined
  /** What the operator says in place of the site's usual words. */
  words?: WordsSettings | undefined
  /** Of these languages the one the browser likes best. Default: by the one it names first. */
  spoken?(offered: readonly string[]): string | undefined
  forms: readonly { path: string; about: { kind: 'level' | 'role'; id: string; called: string } }[]
}

/** A block while the page is written: whether it opens, what is sent for it, and what would be if it did. */
export interface MarkedBlock {
  id: string
  opens: boolean
  sent: ViewBlock[]
  whole(): Promise<ViewBlock[]>
}

export interface Writing {
  /** Puts a mark around each block. */
  mark(block: MarkedBlock): Promise<ViewBlock[]>
  /** Which one of several is looked at, by what they stand in; else the one the visitor gets. */
  picked: Readonly<Record<string, string>>
}

export interface AssembleAsk {
  rules: CompiledRules
  decider: CompiledDecider
  source: PageSource
  path: string
  base?: string | undefined
  walked?: PageView['walked']
  /** The name of a deed just done, told once. */
  done?: string | undefined
  /** Where somebody was refused before they came to sign in: a path of the site. */
  back?: string | undefined
  /** For whoever writes the page, and never for a visitor. */
  writing?: Writing
}

export async function assemble(ask: AssembleAsk): Promise<Assembled> {
  return new Assembly(ask).run()
}

/** Things as a feed tells of them to whoever may find them, with the words of those that open. */
export async function assembleEntries(ask: AssembleAsk, things: readonly Resource[]): Promise<FeedEntry[]> {
  return new Assembly(ask).entries(things)
}

/** A block as it is read: where it stands and what it shows, from the row the edition names. */
interface BlockRow {
  id: string
  kind: BlockKind
  title: string
  summary: string
  /** Missing where whoever looks may not know it. */
  body: Record<string, unknown> | undefined
  oneOf: boolean
  accent: Block['accent']
  shares: string | undefined
}

class Assembly {
  private readonly facts: ReadonlySet<FactGroup>
  private readonly base: string
  private readonly decider: CompiledDecider
  private personal = false
  /** What is not there is one page, wherever it is: where that is, is put into what is sent. */
  private nowhere = false
  private readonly ways = new Map<number, Way[]>()
  private shownGoods: GoodsView | undefined
  private readonly words: SiteWords
  private readonly questions: PageQuestions

  constructor(private readonly ask: AssembleAsk) {
    this.base = ask.base ?? ''
    this.decider = ask.decider
    this.facts = this.decider.watch()
    this.questions = new PageQuestions(ask)
    this.words = this.questions.words
  }

  private say(key: WordKey, facts?: Record<string, string>): string {
    return sayWord(this.words, key, facts)
  }

  /**
   * What is not there and what is hidden are the same answer, from the same work: both are decided
   * by what the snapshot knows, and of neither is anything read.
   */
  async run(): Promise<Assembled> {
    const { index } = this.ask.rules
    const asked = index.at(this.ask.path)
    const decided = asked ?? someThing(this.ask.rules)
    const verdict = this.decider.decide(decided)
    // Of a refusal the plain reading picks the answer; where nothing is there to refuse it is asked all the same.
    if (!asked && verdict.open) this.decider.plainly.decide(decided)
    const treatment = verdict.otherwise ?? { absent: true }
    if (!asked || (!verdict.open && 'absent' in treatment && !this.ask.writing)) {
      await this.read([])
      const missing = await this.missing()
      const { back } = this.ask
      if (back !== undefined) missing.view.ways = await this.waysBack(back)
      return { ...missing, ...(asked ? { thing: asked, refused: true as const } : {}) }
    }
    await this.read([asked, ...this.inside(asked)])
    if (verdict.open) return { ...(await this.opened(asked, verdict)), thing: asked }
    const refused = await this.refused(asked, treatment)
    const whole = this.ask.writing ? { whole: (await this.opened(asked, verdict)).view } : {}
    return { ...refused, thing: asked, refused: true, ...whole }
  }

  /** Everything that stands in a thing, at any depth; for the frame, in its parts. */
  private inside({ kind, id }: { kind: string; id: string }, found: Resource[] = []): Resource[] {
    for (const block of this.ask.rules.index.standingIn(kind, id)) {
      const inner: Resource = { kind: 'block', id: block.id }
      found.push(inner)
      this.inside(inner, found)
    }
    return found
  }

  /** Reads the content of things, and of what stands in the frame, in one question. */
  private async read(things: readonly Resource[]): Promise<void> {
    const frame = (['header', 'banner', 'footer'] as const).flatMap(id => this.inside({ kind: 'frame', id }))
    await this.ask.source.read([...frame, ...things])
  }

  private contentOf(kind: Kind, id: string): Record<string, unknown> {
    return this.ask.source.content(kind, id) ?? {}
  }

  private blockRow(block: Block): BlockRow {
    const { summary = '', body } = this.contentOf('block', block.id) as {
      summary?: string
      body?: Record<string, unknown>
    }
    return {
      id: block.id,
      kind: (block.kind ?? 'text') as BlockKind,
      title: block.title ?? '',
      summary,
      body,
      oneOf: block.oneOf === true,
      accent: block.accent,
      shares: block.shares,
    }
  }

  private standing(kind: string, id: string): BlockRow[] {
    return this.ask.rules.index.standingIn(kind, id).map(block => this.blockRow(block))
  }

  private get tools(): ViewTools {
    const { index } = this.ask.rules
    return {
      index,
      blocks: (kind, id) => this.blocks(this.standing(kind, id)),
      words: (thing, markdown) => (markdown ? [{ kind: 'text', title: '', html: this.text(thing, markdown) }] : []),
      list: things => this.list(things),
      file: download => this.file(download),
      shelf: category => this.shelf(category),
      goods: product => this.goods.shown(product),
      notSold: product => this.notSold(product),
      money: minor => moneyWords(minor, index.site.currency, this.words.locale),
      picture: (thing, name) => this.pictureAt(thing, name),
      day: date => dayWords(date, this.words.locale),
    }
  }

  private text(thing: Resource, markdown: string): string {
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
  private reader(what: ReaderWord): string | null {
    return this.questions.readerHas(what) ? this.ask.source.mark(what) : null
  }

  private async opened(thing: Resource, verdict: Verdict): Promise<Assembled> {
    const { index } = this.ask.rules
    const seen = index.get(thing.kind, thing.id) as { title?: string }
    const content = this.contentOf(thing.kind, thing.id)
    const shown = await openedThing(thing.kind, seen, content, { ...this.tools, verdict })
    const { author } = shown.byline ?? {}
    return this.done(200, {
      title: seen.title ?? thing.id,
      summary: String(content.summary ?? ''),
      trail: this.trail(thing),
      ...shown,
      about: { ...this.about(thing, this.isForAll(thing)), ...(author === undefined ? {} : { author }) },
    })
  }

  private about(thing: Resource, free: boolean): PageAbout {
    const day = moduleOf(thing.kind).day?.(this.ask.rules.index.get(thing.kind, thing.id) as never)
    return { kind: thing.kind, free, ...(day === undefined ? {} : { day }) }
  }
  /** Of what opened: whether it opens to whoever comes, as far as this visitor can tell. */
  private isForAll(thing: Resource): boolean {
    return !this.decider.asker.signedIn || !this.ask.rules.factsOf(thing).has('person')
  }

  private async refused(thing: Resource, treatment: Treatment): Promise<Assembled> {
    const status = this.decider.signedIn ? 403 : 401
    const found = this.decider.decide(thing).find
    const { title: own = thing.id } = this.ask.rules.index.get(thing.kind, thing.id) as { title?: string }
    const summary = String(this.contentOf(thing.kind, thing.id).summary ?? '')
    const title = found ? own : ''
    if ('teaser' in treatment)
      return this.done(200, {
        title: own,
        summary,
        blocks: [{ kind: 'teaser', title: own, summary, guest: this.guest, ...(await this.told(thing)) }],
        trail: this.trail(thing),
        about: this.about(thing, false),
      })
    if ('notice' in treatment)
      return this.done(status, {
        title,
        blocks: [await this.notice(treatment.notice, thing)],
        trail: found ? this.trail(thing) : [],
      })
    if ('dimmed' in treatment)
      return this.done(status, {
        title,
        blocks: this.standing(thing.kind, thing.id).map(row => dimmedBlock(row, treatment.dimmed)),
        ways: await this.waysTo(thing),
      })
    if ('swap' in treatment) {
      const swapped = await this.swapped(treatment.swap.block, new Set())
      return swapped.length ? this.done(status, { title, blocks: swapped }) : this.missing()
    }
    if ('redirect' in treatment) {
      const to = this.redirectTarget(treatment.redirect.to)
      return to ? { ...(await this.done(303, {})), redirect: this.base + withBack(to, this.ask.path) } : this.missing()
    }
    return this.missing()
  }

  /** What would let the visitor in to where they came from to sign in. */
  private async waysBack(path: string): Promise<Way[]> {
    const thing = this.ask.rules.index.at(path)
    return thing && !this.decider.decide(thing).open ? this.waysTo(thing) : []
  }

  /** What would let the visitor in to a thing they may find; told of every weave once. */
  private async waysTo(thing: Resource): Promise<Way[]> {
    const { decider } = this
    if (!this.mayBeTold(thing)) return []
    // What they are told depends on who they are.
    void decider.signedIn
    const weave = this.ask.rules.weaveOf(thing)
    const known = this.ways.get(weave)
    if (known) return known
    const told = this.questions.ways(thing)
    this.ways.set(weave, told)
    return told
  }
  /**
   * Whether the visitor may be told of a thing at all: of what may be found. What stands in a page is found with it,
   * and told by what stands in its place, unless a gate says apart who finds it.
   */
  private mayBeTold(thing: Resource): boolean {
    const { rules } = this.ask
    if (!insideOthers.has(thing.kind)) return this.decider.decide(thing).find
    const chain = chainOf(thing, rules.gates, rules.index)
    const place = chain?.standsIn
    if (!chain || (place && place !== 'open' && !this.decider.decide(place).open)) return false
    return gatesOf(chain).every(({ gate }) => !gate.find || this.decider.admitsOrKey(gate.find))
  }

  private asked(): Assembled['asked'] {
    const { weaves, conditions, codes, place } = this.decider.watchedQuestions()
    for (const offer of codes) this.questions.gaveCode(offer)
    if (place) void this.questions.taxedAt
    return { weaves, conditions, questions: this.questions.asked }
  }

  private get goods(): GoodsView {
    const { money, day } = this.tools
    const href = (path: string) => this.href(path)
    const codes = codesPlace(this.decider, this.ask.path, this.base)
    return (this.shownGoods ??= new GoodsView(this.decider, { money, day, href, codes, walked: this.base !== '' }))
  }

  private async shelf(category: string | undefined): Promise<ViewBlock & { kind: 'goods' }> {
    const { ids, shelf } = this.goods.shelf(category, this.questions.requestPart('query'), this.href(this.ask.path))
    return { kind: 'goods', title: '', things: await this.cards(ids.map(id => ({ kind: 'product', id }))), shelf }
  }

  /** Goods as cards, with their pictures; those that may be found. */
  private async cards(things: readonly Resource[], most?: number): Promise<Listed[]> {
    return this.list(things, { ...(most === undefined ? {} : { most }), pictures: true })
  }

  /** Words of the operator's, or the site's own; and what would let them. */
  private async notSold(product: Resource): Promise<ViewBlock[]> {
    const verdict = this.decider.decide(product)
    if (verdict.take) return []
    const right = verdict.price ? 'take' : 'price'
    const { text = this.say(verdict.price ? 'goods.not-sold' : 'goods.untold'), link } = verdict.takeNotice ?? {}
    // What they are told depends on who they are.
    void this.decider.signedIn
    const ways = this.mayBeTold(product) ? this.questions.ways(product, right) : []
    return [
      {
        kind: 'notice',
        text,
        guest: this.guest,
        ...(link ? { link: this.href(link) } : {}),
        ...(ways.length ? { ways, to: right } : {}),
      },
    ]
  }

  private async told(thing: Resource): Promise<{ ways?: Way[] }> {
    const ways = await this.waysTo(thing)
    return ways.length ? { ways } : {}
  }
  /** A redirect that would lead back here, directly or through other refusals, leads nowhere. */
  private redirectTarget(to: string): string | null {
    const seen = new Set([this.ask.path])
    for (let path = to; ;) {
      const bare = path.split(/[?#]/)[0]!
      if (seen.has(bare)) return null
      seen.add(bare)
      const thing = this.ask.rules.index.at(bare)
      if (!thing) return to
      const verdict = this.decider.decide(thing)
      if (verdict.open || !verdict.otherwise || !('redirect' in verdict.otherwise)) return to
      path = verdict.otherwise.redirect.to
    }
  }

  /** The same bytes for everything that is not there, whatever the reason. */
  private missing(): Promise<Assembled> {
    this.nowhere = true
    return this.done(404, {
      title: this.say('page.nothing'),
      blocks: [
        {
          kind: 'notice',
          text: this.say('page.nothing-text'),
          guest: this.guest,
          ways: [],
        },
      ],
    })
  }

  private async done(status: number, part: Partial<PageView>): Promise<Assembled> {
    const { site } = this.ask.rules.index
    const view: PageView = {
      status,
      siteName: site.name ?? '',
      lang: this.questions.languageAt(this.ask.path) ?? site.locale ?? 'en',
      words: this.words,
      look: this.look(site.name ?? ''),
      title: '',
      summary: '',
      here: this.nowhere ? '' : this.ask.path,
      base: this.base,
      header: await this.blocks(this.standing('frame', 'header')),
      banner: await this.blocks(this.standing('frame', 'banner')),
      footer: await this.blocks(this.standing('frame', 'footer')),
      menu: this.menu('main'),
      trail: [],
      blocks: [],
      below: [],
      ways: [],
      signIn: this.base + this.signIn,
      ...part,
      ...(this.ask.walked ? { walked: this.ask.walked } : {}),
      ...this.said(),
    }
    return {
      view,
      facts: this.facts,
      asked: this.asked(),
      ...(this.personal ? { personal: true as const } : {}),
    }
  }

  private look(name: string): PageView['look'] {
    const { look } = this.ask.source
    return look
      ? { mark: markOf(look, name), sheet: lookSheet(look), typeface: look.typeface }
      : { mark: null, sheet: null, typeface: 'book' }
  }

  private said(): { said?: string } {
    const key = `done.${this.ask.done ?? ''}`
    return isWordKey(key) ? { said: this.say(key) } : {}
  }

  private get guest(): boolean {
    return !this.decider.signedIn
  }

  private href(path: string): string {
    return path.startsWith('/') ? this.base + path : path
  }

  private async notice({ text, link }: Notice, thing: Resource): Promise<ViewBlock> {
    const told = await this.told(thing)
    return { kind: 'notice', text, guest: this.guest, ...(link ? { link: this.href(link) } : {}), ...told }
  }

  /** What it lies in, as far as that has addresses and may be found: the first way where there are several. */
  private trail(thing: Resource): PageView['trail'] {
    const { index } = this.ask.rules
    const [way = []] = moduleOf(thing.kind).ways?.(index.get(thing.kind, thing.id) as never, index) ?? []
    return way.flatMap(({ on, id }) => {
      const kind = on as Kind
      const path = index.pathOf(kind, id)
      const { title = id } = (index.get(kind, id) ?? {}) as { title?: string }
      return path !== undefined && this.decider.decide({ kind, id }).find ? [{ title, href: this.href(path) }] : []
    })
  }

  /** Of things those that may be found, the first `most` of them, with what lists tell of them. */
  private async list(
    things: readonly Resource[],
    { most = Infinity, pictures = false }: { most?: number; pictures?: boolean } = {},
  ): Promise<Listed[]> {
    const { index } = this.ask.rules
    const found: { thing: Resource; verdict: Verdict; path: string }[] = []
    for (const thing of things) {
      if (found.length >= most) break
      const path = index.pathOf(thing.kind, thing.id)
      if (path === undefined || !(this.decider.bits(thing) & rightBit.find)) continue
      found.push({ thing, verdict: this.decider.decide(thing), path })
    }
    await this.ask.source.read(found.map(one => one.thing))
    return found.map(({ thing, verdict, path }) => {
      const { title = thing.id } = index.get(thing.kind, thing.id) as { title?: string }
      const { picture } = pictures ? this.contentOf(thing.kind, thing.id) : {}
      const day = moduleOf(thing.kind).day?.(index.get(thing.kind, thing.id) as never)
      return {
        title,
        summary: String(this.contentOf(thing.kind, thing.id).summary ?? ''),
        href: this.href(path),
        opens: verdict.open,
        ...(day === undefined ? {} : { day: dayWords(day, this.words.locale) }),
        ...(verdict.open && hasPrice(thing.kind) ? this.goods.listed(thing.id) : {}),
        ...(picture
          ? { picture: shownPicture(String(picture), this.pictureAt(thing, String(picture))) ?? String(picture) }
          : {}),
      }
    })
  }

  /** Of downloads with a file those that may be found. */
  private async files(downloads: readonly Resource[]): Promise<ListedFile[]> {
    const found = downloads.filter(thing => this.decider.decide(thing).find)
    await this.ask.source.read(found)
    return (await Promise.all(found.map(thing => this.file(thing)))).filter(one => one !== undefined)
  }

  /** The file of a download; where it is fetched only for whoever may. */
  private async file(thing: Resource): Promise<ListedFile | undefined> {
    const { rules, source } = this.ask
    await source.read([thing])
    const content = this.contentOf(thing.kind, thing.id)
    const file = readFileName(content.file)
    if (!file) return undefined
    const verdict = this.decider.decide(thing)
    const path = rules.index.pathOf(thing.kind, thing.id)
    const { title = thing.id } = rules.index.get(thing.kind, thing.id) as { title?: string }
    const why = verdict.take ? undefined : verdict.takeNotice?.text
    return {
      title,
      summary: String(content.summary ?? ''),
      ...(path === undefined ? {} : { href: this.href(path) }),
      type: file.type.toUpperCase(),
      size: sizeWords(file.size, this.words.locale),
      ...(verdict.take ? { fetch: this.fetchAt(thing.id) } : {}),
      ...(why ? { why } : {}),
    }
  }

  private fetchAt(id: string): string {
    return this.base + fetchAddress(id) + this.saidAgain
  }

  private async blocks(rows: BlockRow[], swapping = new Set<string>()): Promise<ViewBlock[]> {
    const shown: ViewBlock[] = []
    for (const row of rows) shown.push(...(await this.block(row, swapping)))
    return shown
  }

  private async block(row: BlockRow, swapping: Set<string>): Promise<ViewBlock[]> {
    const verdict = this.decider.decide({ kind: 'block', id: row.id })
    const sent = verdict.open ? await this.admitted(row, swapping) : await this.instead(row, verdict, swapping)
    const { writing } = this.ask
    if (!writing) return sent
    return writing.mark({ id: row.id, opens: verdict.open, sent, whole: () => this.admitted(row, swapping) })
  }

  /** What it shows, in another look for those it has one for. */
  private async admitted(row: BlockRow, swapping: Set<string>): Promise<ViewBlock[]> {
    const blocks = await this.content(row, swapping)
    const { accent } = row
    const has = accent && blocks.length > 0 && (!accent.for || this.decider.admitsOrKey(accent.for as Condition))
    return has ? [{ kind: 'accent', look: accent.look, blocks }] : blocks
  }

  async entries(things: readonly Resource[]): Promise<FeedEntry[]> {
    const { index } = this.ask.rules
    const found = things.flatMap(thing => {
      const path = index.pathOf(thing.kind, thing.id)
      const verdict = this.decider.decide(thing)
      return verdict.find && path !== undefined ? [{ thing, verdict, path }] : []
    })
    await this.ask.source.read(found.flatMap(({ thing }) => [thing, ...this.inside(thing)]))
    const entries: FeedEntry[] = []
    for (const { thing, verdict, path } of found) {
      const seen = index.get(thing.kind, thing.id) as { title?: string }
      const content = this.contentOf(thing.kind, thing.id)
      const day = moduleOf(thing.kind).day?.(seen as never)
      const opened = verdict.open && (await openedThing(thing.kind, seen, content, { ...this.tools, verdict }))
      entries.push({
        thing,
        title: seen.title ?? thing.id,
        summary: String(content.summary ?? ''),
        path,
        ...(day === undefined ? {} : { day }),
        ...(verdict.open && content.author ? { author: String(content.author) } : {}),
        ...(opened ? { html: opened.blocks.map(textOfBlock).join('') } : {}),
      })
    }
    return entries
  }

  /** What stands in place of a block that is refused. */
  private async instead(row: BlockRow, verdict: Verdict, swapping: Set<string>): Promise<ViewBlock[]> {
    const treatment = verdict.otherwise ?? { absent: true }
    const thing: Resource = { kind: 'block', id: row.id }
    if ('teaser' in treatment) {
      const { title, summary } = row
      if (!title && !summary) return []
      return [{ kind: 'teaser', title, summary, guest: this.guest, ...(await this.told(thing)) }]
    }
    if ('notice' in treatment) return [await this.notice(treatment.notice, thing)]
    if ('dimmed' in treatment) return [dimmedBlock(row, treatment.dimmed)]
    if ('swap' in treatment) return this.swapped(treatment.swap.block, new Set([...swapping, row.id]))
    // A redirect says where a page leads; a block has nowhere to go and is simply not there.
    return []
  }

  /** What is brought from elsewhere counts as shown from here on: whatever in it leads back to it ends. */
  private async swapped(id: string, swapping: Set<string>): Promise<ViewBlock[]> {
    const block = this.ask.rules.index.get('block', id)
    if (swapping.has(id) || !block) return []
    const thing: Resource = { kind: 'block', id }
    await this.ask.source.read([thing, ...this.inside(thing)])
    return this.block(this.blockRow(block), new Set([...swapping, id]))
  }

  /** Of what stands on the shelf only: anything else would be shown where it may not be. */
  private async sharedPart({ shares = '' }: BlockRow, swapping: Set<string>): Promise<ViewBlock[]> {
    const { in: place } = this.ask.rules.index.get('block', shares) ?? {}
    return place && 'frame' in place && place.frame === 'shelf' ? this.swapped(shares, swapping) : []
  }

  private async content(row: BlockRow, swapping: Set<string>): Promise<ViewBlock[]> {
    if (row.oneOf) return this.oneOf(row, swapping)
    if (!row.body) return []
    return shownBlock(
      row.kind,
      { ...row, body: row.body },
      {
        href: path => this.href(path),
        base: this.base,
        text: markdown => this.text({ kind: 'block', id: row.id }, markdown),
        inner: () => this.blocks(this.standing('block', row.id), swapping),
        opens: thing => this.decider.decide(thing).open,
        panel: shows => this.panel(shows),
        person: () => this.person(),
        list: (things, most) => this.list(things, most === undefined ? {} : { most }),
        goods: (things, most) => this.cards(things, most),
        code: offer => codeShown(this.decider, offer),
        onShelf: category => goodsIn(this.ask.rules, category),
        files: downloads => this.files(downloads),
        menu: id => this.menu(id),
        picture: name => this.pictureAt({ kind: 'block', id: row.id }, name),
        shared: () => this.sharedPart(row, swapping),
        signUp: this.ask.source.signUp ?? { mode: 'open', facts: [] },
        index: this.ask.rules.index,
      },
    )
  }

  private pictureAt(thing: Resource, name: string): string {
    const { source } = this.ask
    return source.picture?.(thing, name) ?? this.base + pictureAddress(thing, name) + this.saidAgain
  }

  /** What a browser says again when it asks for what stands on the page: only where the page turned on it. */
  private get saidAgain(): string {
    const { facts, questions } = this
    return saidWithPage({
      query: facts.has('query') ? questions.requestPart('query') : undefined,
      referrer: facts.has('referrer') ? questions.requestPart('referrer') : undefined,
    })
  }

  private async oneOf(row: BlockRow, swapping: Set<string>): Promise<ViewBlock[]> {
    const others = this.standing('block', row.id)
    const find = (id: string | null | undefined) => others.find(one => one.id === id)
    // One that was looked at may stand elsewhere by now.
    const child = find(this.ask.writing?.picked[row.id]) ?? find(this.decider.shows({ kind: 'block', id: row.id }))
    return child ? this.block(child, swapping) : []
  }

  private person() {
    if (!this.decider.signedIn) return null
    const loft = this.questions.isStaff
    return { name: this.ask.source.mark('name'), roles: this.ask.source.mark('roles'), loft }
  }

  /** A panel shows only to somebody signed in, and where it has something to show. */
  private async panel(shows: PanelSort): Promise<Panel | null> {
    if (shows !== 'words') this.personal ||= this.decider.signedIn
    return this.ask.source.panel(shows, { href: path => this.href(path), words: this.words })
  }

  private menu(id: string): ViewItem[] {
    const menu = this.ask.rules.index.get('menu', id)
    if (!menu) return []
    const seen = menuFor(menu, {
      ownAdmits: item => {
        const { find, open } = this.decider.decide({ kind: 'menuItem', id: item.id })
        return find && open
      },
      opens: resource => (this.decider.bits(resource) & rightBit.open) !== 0,
      signedIn: () => this.decider.signedIn,
    })
    const shownItems = new Map(seen.map(({ item, state }) => [item.id, { item, state }]))
    const under = (parent: string | undefined): ViewItem[] =>
      seen
        .filter(({ item }) => (item.under && shownItems.has(item.under) ? item.under : undefined) === parent)
        .map(({ item, state }) => {
          const path = this.targetPath(item)
          // Whoever is in is told the way out, which is something done and no place.
          const wayOut = targetPlace(item.to) === 'entrance' && this.decider.signedIn
          if (wayOut && state === 'shown')
            return {
              label: item.labelIn ?? this.say('part.sign-out'),
              locked: false,
              here: false,
              items: under(item.id),
              wayOut,
            }
          return {
            label: item.label,
            ...(state === 'shown' && path ? { href: this.href(path) } : {}),
            locked: state === 'locked',
            ...(state === 'locked' ? this.unlockedBy(item) : {}),
            here: !this.nowhere && path === this.ask.path,
            ...(targetPlace(item.to) === 'basket' && state === 'shown' ? { count: this.basketCount } : {}),
            items: under(item.id),
          }
        })
    return under(undefined)
  }

  /** The level or role that would unlock an entry; told where what it leads to may be found. */
  private unlockedBy(item: MenuItem): { from?: string } {
    const target = targetThing(item.to)
    if (!target || !this.decider.decide(target).find) return {}
    const from = this.questions.unlocks(item)
    return from ? { from } : {}
  }

  /** In a walk nobody signs in: it leads back to where one is. */
  private get signIn(): string {
    if (this.base) return this.ask.path
    return `/sign-in?back=${this.nowhere ? this.ask.source.mark('back') : wayBack(this.ask.path)}`
  }

  /** How much lies in it stands in no kept page: which browser it is of, a shared cache tells by its cookies. */
  private get basketCount(): string {
    this.decider.noteBasket()
    return this.ask.source.mark('basket')
  }

  private targetPath(item: MenuItem): string | undefined {
    if (!item.to) return undefined
    if (item.to.url !== undefined) return item.to.url
    const { index } = this.ask.rules
    const own = targetPlace(item.to)
    if (own === 'entrance') return this.signIn
    if (own === 'basket') return this.base ? undefined : '/basket'
    if (own === 'account') return index.at(homePath) ? homePath : '/account/profile'
    const target = targetThing(item.to)
    return target ? index.pathOf(target.kind, target.id) : undefined
  }
}

/** Where members have what is their own, where the site has a page there. */
const homePath = '/account'

/** Its shape, and of its words those that may stay: no link, no price, nothing that is for whoever is admitted. */
function dimmedBlock({ kind, title, body }: BlockRow, how: true | { keep: DimmedPart[] }): ViewBlock {
  const keeps = (part: DimmedPart) => how !== true && how.keep.includes(part)
  const { label, picture } = (body && blockModule(kind).outline?.(body)) ?? {}
  return {
    kind: 'dimmed',
    lines: 3,
    ...(keeps('heading') && title ? { title } : {}),
    ...(keeps('label') && label ? { label } : {}),
    ...(keeps('picture') && picture ? { picture } : {}),
  }
}

/** Of a part what is written in it; the rest is for a page. */
const textOfBlock = (block: ViewBlock): string =>
  block.kind === 'text' ? block.html : 'blocks' in block ? block.blocks.map(textOfBlock).join('') : ''

/** A thing to decide about where none was found, so that both take the same time. */
function someThing({ index }: CompiledRules): Resource {
  return { kind: 'page', id: index.site.pages?.at(-1)?.id ?? '' }
}

const withBack = (to: string, back: string) => `${to}${to.includes('?') ? '&' : '?'}back=${wayBack(back)}`
