/**
 * What one visitor is sent for one address: assembled from what the rules
 * admit and from nothing else. Whatever is refused never enters the view, so
 * it cannot reach HTML, headers, metadata or any other form of the page.
 */
import { createHash } from 'node:crypto'
import { CompiledDecider } from '../../../core/gates/compiled-decider'
import type { Visitor } from '../../../core/rulebook/visitor'
import { openForms } from '../people/applications'
import type { FactGroup } from '../../../core/conditions/looks-at'
import type { Notice, Treatment } from '../../../core/rulebook/gate'
import type { Kind } from '../../../core/rulebook/kinds'
import { menuFor } from '../../../core/menus/menu'
import type { MenuItem } from '../../../core/site/site'
import { rightBit } from '../../../core/gates/verdict'
import type { Verdict } from '../../../core/gates/verdict'
import type { Tx } from '../../db/database'
import type { BlockBody, PanelSort } from './blocks'
import { blocksFor, blockTree, pageAt, pagesBelow } from './content'
import type { BlockRow, PageRow } from './content'
import { renderMarkdown } from './markdown'
import { panelOf } from './member-panels'
import type { Panel } from './member-panels'
import type { Snapshot } from '../rules/snapshot'

export type ViewBlock =
  | { kind: 'text'; html: string; title: string }
  | { kind: 'picture'; alt: string; caption?: string; src?: string; pattern?: string; palette?: string }
  | { kind: 'call'; title: string; text?: string; label: string; href: string }
  | { kind: 'group'; title: string; blocks: ViewBlock[] }
  | { kind: 'panels'; title: string; blocks: ViewBlock[] }
  | { kind: 'panel'; title: string; text?: string; link?: { label: string; href: string }; panel: Panel }
  | { kind: 'account'; person: { name: string; roles: string[]; loft: boolean } | null }
  | { kind: 'teaser'; title: string; summary: string; /** Signing in may help: nobody is signed in. */ guest: boolean }
  | { kind: 'notice'; text: string; guest: boolean; link?: string }
  | { kind: 'dimmed'; lines: number }

export interface ViewItem {
  label: string
  href?: string
  locked: boolean
  here: boolean
  items: ViewItem[]
}
export interface PageView {
  status: number
  siteName: string
  lang: string
  /** Of the document and its heading; empty when the page's own must not be told. */
  title: string
  summary: string
  here: string
  /** Stands before every address of the site in links; empty but in a walk. */
  base: string
  header: ViewBlock[]
  banner: ViewBlock[]
  footer: ViewBlock[]
  menu: ViewItem[]
  trail: { title: string; href: string }[]
  blocks: ViewBlock[]
  below: { title: string; summary: string; href: string; opens: boolean }[]
  /** Where a visitor signs in to come back here. */
  signIn: string
  walked?: { tier: string; draft: boolean }
  /** What was just done, told once. */
  said?: string
  /** Levels and roles that would open the page and that can be applied for. */
  offers: { title: string; href: string }[]
}

export interface Assembled {
  view: PageView
  /** Set instead of a page to send. */
  redirect?: string
  facts: Set<FactGroup>
  /** The page at the address, whether it opened or not. */
  page?: string
  /** It did not open. */
  refused?: true
  /** Holds what is about the visitor alone: kept by nobody, not even by their own browser. */
  personal?: true
}

export interface ViewAsk {
  snapshot: Snapshot
  decider: CompiledDecider
  db: Tx
  path: string
  base?: string
  walked?: PageView['walked']
  said?: string | undefined
  /** The browser's own session, marked in the list of sessions. */ sessionId?: string | undefined
  /** Panels that are not for whoever looks. */ hidden?: ReadonlySet<PanelSort>
}

export async function assembleView(ask: ViewAsk): Promise<Assembled> {
  return new Assembly(ask).run()
}

class Assembly {
  private readonly facts = new Set<FactGroup>()
  private readonly base: string
  private readonly decider: CompiledDecider
  private rows = new Map<string | null, BlockRow[]>()
  private personal = false

  constructor(private readonly ask: ViewAsk) {
    this.base = ask.base ?? ''
    this.decider = ask.decider
  }

  /**
   * What is not there and what is hidden are the same answer, from the same work: both are decided
   * by what the snapshot knows, and of neither is anything read.
   */
  async run(): Promise<Assembled> {
    const { index } = this.ask.snapshot.rules
    const asked = index.pageAt(this.ask.path)
    const decided = (asked ?? index.anyPage)?.id ?? ''
    const verdict = this.verdict('page', decided)
    // Of a refusal the plain reading picks the answer; where nothing is there to refuse it is asked all the same.
    if (!asked && verdict.open) this.decider.plainly.decide({ kind: 'page', id: decided })
    const treatment = verdict.otherwise ?? { absent: true }
    if (!asked || (!verdict.open && 'absent' in treatment)) {
      this.rows = groupedByPlace(await blocksFor(this.ask.db, null))
      return { ...(await this.missing()), ...(asked ? { page: asked.id, refused: true as const } : {}) }
    }
    const [page, rows] = await Promise.all([pageAt(this.ask.db, this.ask.path), blocksFor(this.ask.db, asked.id)])
    this.rows = groupedByPlace(rows)
    if (!page) return this.missing()
    if (verdict.open) return { ...(await this.opened(page)), page: page.id }
    const refused = await this.refused(page, treatment)
    // Whoever is told of the page is told how to come by it; of an absent one nobody is told anything.
    if (refused.view.status !== 404 && !refused.redirect) refused.view.offers = await this.offers(page.id)
    return { ...refused, page: page.id, refused: true }
  }

  private async opened(page: PageRow): Promise<Assembled> {
    const blocks = await this.blocks(this.rows.get(page.id) ?? [])
    return this.done(200, {
      title: page.title,
      summary: page.summary,
      blocks,
      trail: this.trail(page),
      below: await this.below(page),
    })
  }

  private async refused(page: PageRow, treatment: Treatment): Promise<Assembled> {
    // What a refused visitor gets depends on whether they are signed in.
    this.facts.add('person')
    const status = this.decider.asker.signedIn ? 403 : 401
    const found = this.verdict('page', page.id).find
    const title = found ? page.title : ''
    if ('teaser' in treatment)
      return this.done(200, {
        title: page.title,
        summary: page.summary,
        blocks: [{ kind: 'teaser', title: page.title, summary: page.summary, guest: this.guest }],
        trail: this.trail(page),
      })
    if ('notice' in treatment)
      return this.done(status, { title, blocks: [this.notice(treatment.notice)], trail: found ? this.trail(page) : [] })
    if ('dimmed' in treatment)
      return this.done(status, {
        title,
        blocks: (this.rows.get(page.id) ?? []).map((): ViewBlock => ({ kind: 'dimmed', lines: 3 })),
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

  private async offers(page: string): Promise<PageView['offers']> {
    const {
      decider,
      ask: { snapshot },
    } = this
    const forms = await openForms(this.ask.db, snapshot.rules.rulebook, false)
    const visitor = decider.visitor.person ? decider.visitor : { ...decider.visitor, person: { id: '' } }
    const since = new Date(decider.asker.at).toISOString()
    return forms
      .filter(({ about }) => {
        const more: Visitor =
          about.kind === 'role'
            ? { ...visitor, roles: [...(visitor.roles ?? []), about.id] }
            : { ...visitor, levels: [...(visitor.levels ?? []), { level: about.id, since }] }
        return (
          (new CompiledDecider(snapshot.rules, more, decider.asker.at).bits({ kind: 'page', id: page }) &
            rightBit.open) !==
          0
        )
      })
      .map(({ target, about }) => ({ title: about.name, href: this.href(`/apply/${target.replace(' ', '/')}`) }))
  }

  /** A redirect that would lead back here, directly or through other refusals, leads nowhere. */
  private redirectTarget(to: string): string | null {
    const seen = new Set([this.ask.path])
    for (let path = to; ;) {
      const bare = path.split(/[?#]/)[0]!
      if (seen.has(bare)) return null
      seen.add(bare)
      const page = this.ask.snapshot.rules.index.pageAt(bare)
      if (!page) return to
      const verdict = this.decider.decide({ kind: 'page', id: page.id })
      if (verdict.open || !verdict.otherwise || !('redirect' in verdict.otherwise)) return to
      path = verdict.otherwise.redirect.to
    }
  }

  /** The same bytes for everything that is not there, whatever the reason. */
  private missing(): Promise<Assembled> {
    return this.done(404, {
      title: 'Nothing here',
      blocks: [{ kind: 'notice', text: 'There is no page at this address, or it is not for you.', guest: this.guest }],
    })
  }

  private async done(status: number, part: Partial<PageView>): Promise<Assembled> {
    const { site } = this.ask.snapshot.rules.index
    const view: PageView = {
      status,
      siteName: site.name ?? '',
      lang: site.locale ?? 'en',
      title: '',
      summary: '',
      here: this.ask.path,
      base: this.base,
      header: await this.blocks(this.rows.get('frame:header') ?? []),
      banner: await this.blocks(this.rows.get('frame:banner') ?? []),
      footer: await this.blocks(this.rows.get('frame:footer') ?? []),
      menu: this.menu('main'),
      trail: [],
      blocks: [],
      below: [],
      offers: [],
      signIn: this.base ? this.base + this.ask.path : `/sign-in?back=${encodeURIComponent(this.ask.path)}`,
      ...part,
      ...(this.ask.walked ? { walked: this.ask.walked } : {}),
      ...(this.ask.said ? { said: this.ask.said } : {}),
    }
    return { view, facts: this.facts, ...(this.personal ? { personal: true as const } : {}) }
  }

  private get guest(): boolean {
    return !this.decider.asker.signedIn
  }

  private verdict(kind: Kind, id: string): Verdict {
    for (const fact of this.ask.snapshot.rules.factsOf(kind, id)) this.facts.add(fact)
    return this.decider.decide({ kind, id })
  }

  private href(path: string): string {
    return path.startsWith('/') ? this.base + path : path
  }

  private notice({ text, link }: Notice): ViewBlock {
    return { kind: 'notice', text, guest: this.guest, ...(link ? { link: this.href(link) } : {}) }
  }

  private trail(page: PageRow): PageView['trail'] {
    const { index } = this.ask.snapshot.rules
    return index
      .lineage(index.pages, page.id)
      .slice(0, -1)
      .flatMap(id => {
        const { title, path } = index.pages.get(id)!
        return this.verdict('page', id).find ? [{ title: title ?? id, href: this.href(path) }] : []
      })
  }

  private async below(page: PageRow): Promise<PageView['below']> {
    return (await pagesBelow(this.ask.db, page.id)).flatMap(child => {
      const { find, open } = this.verdict('page', child.id)
      return find ? [{ title: child.title, summary: child.summary, href: this.href(child.path), opens: open }] : []
    })
  }

  private async blocks(rows: BlockRow[], swapping = new Set<string>()): Promise<ViewBlock[]> {
    const shown: ViewBlock[] = []
    for (const row of rows) shown.push(...(await this.block(row, swapping)))
    return shown
  }

  private async block(row: BlockRow, swapping: Set<string>): Promise<ViewBlock[]> {
    const verdict = this.verdict('block', row.id)
    if (verdict.open) return [await this.content(row, swapping)].flat()
    this.facts.add('person')
    const treatment = verdict.otherwise ?? { absent: true }
    if ('teaser' in treatment)
      return row.title || row.summary
        ? [{ kind: 'teaser', title: row.title, summary: row.summary, guest: this.guest }]
        : []
    if ('notice' in treatment) return [this.notice(treatment.notice)]
    if ('dimmed' in treatment) return [{ kind: 'dimmed', lines: 3 }]
    if ('swap' in treatment) return this.swapped(treatment.swap.block, new Set([...swapping, row.id]))
    // A redirect says where a page leads; a block has nowhere to go and is simply not there.
    return []
  }

  private async swapped(id: string, swapping: Set<string>): Promise<ViewBlock[]> {
    if (swapping.has(id)) return []
    const [row, ...inner] = (await blockTree(this.ask.db, id)).sort((a, b) => Number(b.id === id) - Number(a.id === id))
    if (!row) return []
    for (const [place, list] of groupedByPlace(inner)) if (!this.rows.has(place)) this.rows.set(place, list)
    return this.block(row, swapping)
  }

  private async content(row: BlockRow, swapping: Set<string>): Promise<ViewBlock | ViewBlock[]> {
    const inner = this.rows.get(`block:${row.id}`) ?? []
    if (row.oneOf) return this.oneOf(row, inner, swapping)
    if (row.kind === 'text')
      return {
        kind: 'text',
        title: row.title,
        html: renderMarkdown((row.body as BlockBody<'text'>).markdown, this.base),
      }
    if (row.kind === 'picture') return { kind: 'picture', ...(row.body as BlockBody<'picture'>) }
    if (row.kind === 'call') {
      const body = row.body as BlockBody<'call'>
      // A counted link leads through a door of ours, but not in a walk, which counts for nobody.
      return {
        kind: 'call',
        title: row.title,
        ...(body.text ? { text: body.text } : {}),
        label: body.label,
        href: body.counted && !this.base ? `/go/${row.id}` : this.href(body.href),
      }
    }
    if (row.kind === 'account') return this.account()
    if (row.kind === 'panel') return this.panel(row)
    return {
      kind: row.kind === 'panels' ? 'panels' : 'group',
      title: row.title,
      blocks: await this.blocks(inner, swapping),
    }
  }

  private async oneOf(row: BlockRow, inner: BlockRow[], swapping: Set<string>): Promise<ViewBlock[]> {
    for (const child of inner)
      for (const fact of this.ask.snapshot.rules.factsOf('block', child.id)) this.facts.add(fact)
    const chosen = this.decider.shows(row.id)
    const child = inner.find(one => one.id === chosen)
    return child ? this.block(child, swapping) : []
  }

  private account(): ViewBlock {
    this.facts.add('person')
    const { asker, rules } = this.decider
    this.personal = true
    if (!asker.signedIn) return { kind: 'account', person: null }
    const staff = (rules.rulebook.roles ?? []).some(role => role.staff && asker.roles.has(role.id))
    return {
      kind: 'account',
      person: {
        name: asker.visitor.person?.name ?? '',
        roles: [...asker.roles].map(role => rules.rulebook.roles?.find(one => one.id === role)?.name ?? role),
        loft: staff,
      },
    }
  }

  /** A panel shows only to somebody signed in, where it has something to show, and where the page it leads to opens. */
  private async panel(row: BlockRow): Promise<ViewBlock[]> {
    const { shows, text, page: target, label } = row.body as BlockBody<'panel'>
    const page = target === undefined ? undefined : this.ask.snapshot.rules.index.pages.get(target)
    if (target !== undefined && (!page || !this.verdict('page', target).open)) return []
    if (shows !== 'words') {
      this.facts.add('person')
      this.personal ||= this.decider.asker.signedIn
    }
    if (this.ask.hidden?.has(shows)) return []
    const panel = await panelOf(shows, {
      snapshot: this.ask.snapshot,
      decider: this.decider,
      db: this.ask.db,
      sessionId: this.ask.sessionId,
      walked: this.ask.walked !== undefined,
      href: path => this.href(path),
    })
    if (!panel) return []
    return [
      {
        kind: 'panel',
        title: row.title,
        ...(text ? { text } : {}),
        ...(page ? { link: { label: label ?? page.title ?? page.id, href: this.href(page.path) } } : {}),
        panel,
      },
    ]
  }

  private menu(id: string): ViewItem[] {
    const { rules } = this.ask.snapshot
    const menu = rules.index.menus.get(id)
    if (!menu) return []
    const note = (kind: Kind, target: string) => {
      for (const fact of rules.factsOf(kind, target)) this.facts.add(fact)
    }
    const seen = menuFor(menu, {
      ownAdmits: item => {
        note('menuItem', item.id)
        const { find, open } = this.decider.decide({ kind: 'menuItem', id: item.id })
        return find && open
      },
      opens: resource => {
        note(resource.kind, resource.id)
        return (this.decider.bits(resource) & rightBit.open) !== 0
      },
    })
    const shown = new Map(seen.map(({ item, state }) => [item.id, { item, state }]))
    const under = (parent: string | undefined): ViewItem[] =>
      seen
        .filter(({ item }) => (item.under && shown.has(item.under) ? item.under : undefined) === parent)
        .map(({ item, state }) => {
          const path = this.targetPath(item)
          return {
            label: item.label,
            ...(state === 'shown' && path ? { href: this.href(path) } : {}),
            locked: state === 'locked',
            here: path === this.ask.path,
            items: under(item.id),
          }
        })
    return under(undefined)
  }

  private targetPath(item: MenuItem): string | undefined {
    if (!item.to) return undefined
    if ('url' in item.to) return item.to.url
    const [kind, id] = Object.entries(item.to)[0] as [Kind, string]
    return this.ask.snapshot.rules.index.pathOf(kind, id)
  }
}

function groupedByPlace(rows: BlockRow[]): Map<string | null, BlockRow[]> {
  const groups = new Map<string | null, BlockRow[]>()
  for (const row of rows) {
    const place = row.frame ? `frame:${row.frame}` : row.blockId !== null ? `block:${row.blockId}` : row.pageId
    groups.set(place, [...(groups.get(place) ?? []), row])
  }
  return groups
}

const withBack = (to: string, back: string) => `${to}${to.includes('?') ? '&' : '?'}back=${encodeURIComponent(back)}`

/** How the answer may be kept: by everybody when nobody's facts were looked at, by the visitor's own browser otherwise, always asked again. */
export function cacheHeaders(
  { view, facts, redirect, personal: own }: Assembled,
  headerOf: Partial<Record<FactGroup, string>>,
): Record<string, string> {
  const personal = [...facts].filter(fact => fact !== 'clock' && fact !== 'query')
  const vary = [...new Set(personal.map(fact => headerOf[fact]).filter(Boolean))].sort().join(', ')
  if (redirect || own || view.status !== 200 || view.walked)
    return { 'cache-control': 'private, no-store', vary: 'Cookie' }
  return {
    'cache-control': personal.length ? 'private, no-cache' : 'public, max-age=0, must-revalidate',
    ...(vary ? { vary } : {}),
  }
}

/** The view key: equal for every visitor who is sent the same page. */
export function viewKey(view: PageView): string {
  return createHash('sha256').update(JSON.stringify(view)).digest('base64url').slice(0, 32)
}
