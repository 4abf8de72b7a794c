/** The parts of a page: what is admitted as it is, what stands in place of what is not, and one of several. */
import { blockModule, shownBlock } from '../blocks/blocks'
import type { BlockKind } from '../blocks/blocks'
import type { BlockKindModule } from '../blocks/block-kind'
import type { PanelSort } from '../blocks/panel-sorts'
import type { Condition } from '../conditions/condition'
import { formFor } from '../entrance/newcomer'
import type { Verdict } from '../gates/verdict'
import type { Block, FramePart } from '../kinds/block'
import type { Resource } from '../kinds/kinds'
import type { DimmedPart } from '../rulebook/gate'
import { goodsIn } from '../shop/shelf'
import { partsAround } from '../site/around'
import type { Panel } from '../view/panel'
import type { ViewBlock } from '../view/view'
import { firstOfPlain, firstWords } from '../texts/first-words'
import { codeShown } from './goods/codes-view'
import { cards, filesOf, listed } from './listed'
import type { PageContext } from './page-context'
import { menuOf } from './page-menu'
import { notice, told } from './told'

/** A block as it is read: where it stands and what it shows, from the row the edition names. */
export interface BlockRow {
  id: string
  kind: BlockKind
  title: string
  summary: string
  /** Missing where whoever looks may not know it. */
  body: Record<string, unknown> | undefined
  oneOf: boolean
  accent: Block['accent']
  shares: string | undefined
  /** It stands around other pages than this one: shown to whoever writes, and never sent. */
  elsewhere?: true
}

function blockRow(page: PageContext, block: Block): BlockRow {
  const { summary = '', body } = page.contentOf('block', block.id) as {
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

export function standing(page: PageContext, kind: string, id: string): BlockRow[] {
  return page.ask.rules.index.standingIn(kind, id).map(block => blockRow(page, block))
}

/** Parts of the site's frame that stand around what is shown. */
export function framed(page: PageContext, frame: FramePart): BlockRow[] {
  const { index } = page.ask.rules
  const here = partsAround(index, frame, page.nowhere && page.ask.own === undefined ? null : page.shown)
  if (!page.ask.writing) return here.map(block => blockRow(page, block))
  // Whoever writes sees those that stand elsewhere too, and that they are not sent here.
  return index
    .standingIn('frame', frame)
    .map(block => ({ ...blockRow(page, block), ...(here.includes(block) ? {} : { elsewhere: true as const }) }))
}

export async function shownParts(
  page: PageContext,
  rows: BlockRow[],
  swapping = new Set<string>(),
): Promise<ViewBlock[]> {
  const shown: ViewBlock[] = []
  for (const row of rows) shown.push(...(await shownPart(page, row, swapping)))
  return shown
}

async function shownPart(page: PageContext, row: BlockRow, swapping: Set<string>): Promise<ViewBlock[]> {
  if (row.elsewhere)
    return (
      page.ask.writing?.mark({ id: row.id, opens: false, sent: [], whole: () => admitted(page, row, swapping) }) ?? []
    )
  const verdict = page.decider.decide({ kind: 'block', id: row.id })
  const sent = verdict.open ? await admitted(page, row, swapping) : await instead(page, row, verdict, swapping)
  const { writing } = page.ask
  if (!writing) return sent
  return writing.mark({ id: row.id, opens: verdict.open, sent, whole: () => admitted(page, row, swapping) })
}

/** What it shows, in another look for those it has one for. */
async function admitted(page: PageContext, row: BlockRow, swapping: Set<string>): Promise<ViewBlock[]> {
  const blocks = await contentShown(page, row, swapping)
  const { accent } = row
  const has = accent && blocks.length > 0 && (!accent.for || page.decider.admitsOrKey(accent.for as Condition))
  return has ? [{ kind: 'accent', look: accent.look, blocks }] : blocks
}

/** What stands in place of a block that is refused. */
async function instead(
  page: PageContext,
  row: BlockRow,
  verdict: Verdict,
  swapping: Set<string>,
): Promise<ViewBlock[]> {
  const treatment = verdict.otherwise ?? { absent: true }
  const thing: Resource = { kind: 'block', id: row.id }
  if ('teaser' in treatment) {
    const { title, summary } = row
    if (!title && !summary) return []
    return [{ kind: 'teaser', title, summary, guest: page.guest, ...(await told(page, thing)) }]
  }
  if ('notice' in treatment) return [await notice(page, treatment.notice, thing)]
  if ('dimmed' in treatment) return [dimmedBlock(page, row, treatment.dimmed)]
  if ('swap' in treatment) return swapped(page, treatment.swap.block, new Set([...swapping, row.id]))
  // A redirect says where a page leads; a block has nowhere to go and is simply not there.
  return []
}

/** What is brought from elsewhere counts as shown from here on: whatever in it leads back to it ends. */
export async function swapped(page: PageContext, id: string, swapping: Set<string>): Promise<ViewBlock[]> {
  const block = page.ask.rules.index.get('block', id)
  if (swapping.has(id) || !block) return []
  const thing: Resource = { kind: 'block', id }
  await page.ask.source.read([thing, ...page.inside(thing)])
  return shownPart(page, blockRow(page, block), new Set([...swapping, id]))
}

/** Of what stands on the shelf only: anything else would be shown where it may not be. */
async function sharedPart(page: PageContext, { shares = '' }: BlockRow, swapping: Set<string>): Promise<ViewBlock[]> {
  const { in: place } = page.ask.rules.index.get('block', shares) ?? {}
  return place && 'frame' in place && place.frame === 'shelf' ? swapped(page, shares, swapping) : []
}

async function contentShown(page: PageContext, row: BlockRow, swapping: Set<string>): Promise<ViewBlock[]> {
  if (row.oneOf) return oneOf(page, row, swapping)
  if (!row.body) return []
  return shownBlock(
    row.kind,
    { ...row, body: row.body },
    {
      href: path => page.href(path),
      base: page.base,
      text: markdown => page.text({ kind: 'block', id: row.id }, markdown),
      inner: () => shownParts(page, standing(page, 'block', row.id), swapping),
      opens: thing => page.decider.decide(thing).open,
      panel: shows => panelOf(page, shows),
      person: () => personOf(page),
      list: (things, most) => listed(page, things, most === undefined ? {} : { most }),
      goods: (things, most) => cards(page, things, most),
      code: offer => codeShown(page.decider, offer),
      onShelf: category => goodsIn(page.ask.rules, category),
      files: downloads => filesOf(page, downloads),
      menu: id => menuOf(page, id),
      picture: name => page.pictureAt({ kind: 'block', id: row.id }, name),
      shared: () => sharedPart(page, row, swapping),
      signUp: page.ask.source.signUp
        ? formFor(page.ask.source.signUp, of => page.decider.admits(of))
        : { mode: 'open', facts: [] },
      index: page.ask.rules.index,
    },
  )
}

async function oneOf(page: PageContext, row: BlockRow, swapping: Set<string>): Promise<ViewBlock[]> {
  const others = standing(page, 'block', row.id)
  const find = (id: string | null | undefined) => others.find(one => one.id === id)
  // One that was looked at may stand elsewhere by now.
  const child = find(page.ask.writing?.picked[row.id]) ?? find(page.decider.shows({ kind: 'block', id: row.id }))
  return child ? shownPart(page, child, swapping) : []
}

function personOf(page: PageContext) {
  if (!page.decider.signedIn) return null
  const loft = page.questions.isStaff
  return { name: page.ask.source.mark('name'), roles: page.ask.source.mark('roles'), loft }
}

/** A panel shows only to somebody signed in, and where it has something to show. */
async function panelOf(page: PageContext, shows: PanelSort): Promise<Panel | null> {
  if (shows !== 'words') page.personal ||= page.decider.signedIn
  return page.ask.source.panel(shows, { href: path => page.href(path), words: page.words })
}

function firstWordsOf(body: Record<string, unknown>, { text: key, plain }: BlockKindModule): string {
  const text = key === undefined ? undefined : body[key]
  return typeof text === 'string' ? firstWords(text) : firstOfPlain(plain?.(body) ?? '')
}

/** Its shape, and of its words those that may stay: no link, no price, nothing that is for whoever is admitted. */
export function dimmedBlock(
  page: PageContext,
  { id, kind, title, body }: BlockRow,
  how: true | { keep: DimmedPart[] },
): ViewBlock {
  const keeps = (part: DimmedPart) => how !== true && how.keep.includes(part)
  const made = blockModule(kind)
  const { label, picture } = (body && made.outline?.(body)) ?? {}
  const words = keeps('words') && body ? firstWordsOf(body, made) : ''
  const sight =
    keeps('sight') && body ? made.sight?.(body, name => page.pictureAt({ kind: 'block', id }, name)) : undefined
  return {
    kind: 'dimmed',
    lines: 3,
    ...(keeps('heading') && title ? { title } : {}),
    ...(keeps('label') && label ? { label } : {}),
    ...(words ? { words } : {}),
    ...(sight ? { sight } : keeps('picture') && picture ? { picture } : {}),
  }
}
