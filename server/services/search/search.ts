/** A search for one visitor: what they may find by it, best first, and quotes of what they may open, down to the passage. */
import { inTransaction } from '../../db/turn'
import { sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import type { Condition } from '../../../core/conditions/condition'
import type { CompiledRules } from '../../../core/gates/compiled'
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import { rightBit } from '../../../core/gates/verdict'
import { resourceKey } from '../../../core/kinds/kinds'
import type { Kind, Resource } from '../../../core/kinds/kinds'
import { opensWhereItStands } from '../../../core/pages/made-from/standing-open'
import { readAsked } from '../../../core/search/asked'
import type { Asked } from '../../../core/search/asked'
import { foundAt } from '../../../core/search/found-at'
import type { Need } from '../../../core/search/fragments'
import type { AnyDb } from '../../db/database'
import { rowsOf } from '../../db/rows-of'
import { searchText, searchWord } from '../../db/schema'
import { configurationFor } from './languages'
import { admittedKeys, keysOf } from './admitted-keys'
import type { Standing } from './admitted-keys'
import type { SearchAsk } from './search-ask'

/** Pieces that are ranked: of a word that is everywhere these stand for the rest. */
const mostRanked = 1000

/** Pieces that hold all words of a phrase, and are looked through for whether in a row: each is unpacked for it. */
const mostLookedThrough = 3000

/** Pieces that are looked at by their rank. */
const mostLooked = 400

/** A search that finds less looks further, for words that stand apart. */
const few = 5

/** Trigrams two words share of all they have (pg_trgm): less is another word. */
const likeEnough = 0.35

/** Part of a quote; `hit`: what was searched for. */
export interface Said {
  text: string
  hit: boolean
}

export interface FoundThing {
  thing: Resource
  title: string
  path: string
  opens: boolean
  /** Why it was found, in its own words; none where only its title says it. */
  quote: Said[]
}

export interface SearchAnswer {
  found: FoundThing[]
  /** There is more than is answered. */
  more: boolean
  /** Nothing is written quite so: this is what comes near. */
  near: boolean
}

interface Piece {
  id: number
  versionId: number
  resource: Resource
  need: Need
  within: readonly Condition[]
  rank: number
  /** Which of the words asked for it has, bit by bit. */
  has: number
}

/** Nothing for nothing asked. What is asked for is read by `readAsked`: no sign in it means anything to the database. */
export async function search(tx: AnyDb, ask: SearchAsk): Promise<SearchAnswer> {
  const asked = readAsked(ask.text)
  if (!asked) return { found: [], more: false, near: false }
  return new Search(tx, ask, asked).run()
}

/** A piece found by whoever may look at all of them: what it is of, and the parts its words stand in. */
export interface FoundPiece {
  resource: Resource
  title: string
  parts: readonly string[]
  quote: Said[]
}

const partsOf: Readonly<Record<Need, readonly string[]>> = {
  search: ['title', 'summary'],
  open: ['words', 'body'],
  take: ['file'],
}

/** Every piece there is, whoever it is for: only for whom rights of another sort decide. */
export async function searchAll(tx: AnyDb, ask: SearchAsk): Promise<FoundPiece[]> {
  const asked = readAsked(ask.text)
  return asked ? new Search(tx, ask, asked).all() : []
}

class Search {
  private readonly configuration: string
  private readonly most: number
  private keys: number[] = []

  constructor(
    private readonly tx: AnyDb,
    private readonly ask: SearchAsk,
    private readonly asked: Asked,
  ) {
    this.configuration = configurationFor(ask.snapshot.contents.frame.locale)
    this.most = ask.most ?? 20
  }

  async run(): Promise<SearchAnswer> {
    this.keys = await admittedKeys(this.tx, this.ask)
    const exact = await this.within(this.terms())
    if (exact.length) return this.answer(exact, false)
    const near = await this.nearTerms()
    const found = near ? await this.within(near) : []
    return this.answer(found, found.length > 0, near ?? undefined)
  }

  async all(): Promise<FoundPiece[]> {
    this.keys = (await keysOf(this.tx)).map(one => one.key)
    const { index } = this.ask.snapshot.rules
    const pieces = await this.pieces(this.terms(), '&&')
    const best = new Map<string, Piece>()
    for (const piece of pieces) {
      const name = resourceKey(piece.resource.kind, piece.resource.id)
      if (this.isNow(piece) && !best.has(name)) best.set(name, piece)
    }
    const told = [...best.values()].slice(0, this.most)
    const quotes = await this.quotes(told)
    return told.map(({ id, resource, need }) => {
      const { title = resource.id } = (index.get(resource.kind, resource.id) ?? {}) as { title?: string }
      return { resource, title, parts: partsOf[need], quote: quotes.get(id) ?? [] }
    })
  }

  /** It is of what the edition holds. */
  private isNow({ resource, versionId }: Piece): boolean {
    return this.ask.snapshot.contents.get(resource.kind as never, resource.id)?.id === versionId
  }

  /** Each word with the endings of the language and as it is; the one being typed as the beginning of one, too. */
  private terms(): SQL[] {
    const { words, phrases, goesOn } = this.asked
    return [
      ...words.map((word, i) => this.term(word, goesOn && i === words.length - 1)),
      ...phrases.map(phrase => {
        const text = phrase.join(' ')
        return sql`(phraseto_tsquery(${this.configuration}::regconfig, ${text}) || phraseto_tsquery('simple', ${text}))`
      }),
    ]
  }

  private term(word: string, goesOn = false): SQL {
    // Made of letters, marks and digits alone: nothing in it is an operator.
    const beginning = goesOn ? sql` || to_tsquery('simple', ${`'${word}':*`})` : sql``
    return sql`(plainto_tsquery(${this.configuration}::regconfig, ${word}) || plainto_tsquery('simple', ${word})${beginning})`
  }

  /** For each word those that are written nearly so; null where there are none. Which they are is nobody's to know but by finding them. */
  private async nearTerms(): Promise<SQL[] | null> {
    const { words, phrases } = this.asked
    const long = words.filter(word => word.length >= 4)
    if (!long.length || phrases.length) return null
    const rows = await this.tx.execute<{ given: string; word: string }>(sql`
      select given.word given, near.word from ${rowsOf(
        long.map(word => ({ word })),
        'word text',
      )} cross join lateral (
        select w.word from ${searchWord} w where w.word % given.word and w.word <> given.word and similarity(w.word, given.word) >= ${likeEnough}
        order by similarity(w.word, given.word) desc, w.word limit 5
      ) near`)
    if (!rows.length) return null
    return words.map(word => {
      const near = rows.filter(row => row.given === word).map(row => this.term(row.word))
      return near.length ? sql`(${sql.join([this.term(word), ...near], sql` || `)})` : this.term(word)
    })
  }

  private conditionFor(terms: SQL[], joint: '&&' | '||'): SQL {
    const without = this.asked.without.map(word => sql` && !! ${this.term(word)}`)
    return sql`((${sql.join(terms, sql.raw(` ${joint} `))})${sql.join(without)})`
  }

  /** Things of which every word is somewhere: in one piece first, then in several together. */
  private async within(terms: SQL[]): Promise<FoundGroup[]> {
    const whole = this.grouped(await this.pieces(terms, '&&'), terms.length)
    if (whole.length >= few || terms.length < 2) return whole
    const apart = this.grouped(await this.pieces(terms, '||'), terms.length)
    const seen = new Set(whole.map(one => one.name))
    return [...whole, ...apart.filter(one => !seen.has(one.name))]
  }

  private async pieces(terms: SQL[], joint: '&&' | '||'): Promise<Piece[]> {
    if (!this.keys.length) return []
    const query = this.conditionFor(terms, joint)
    const has = sql.join(
      terms.map((term, i) => sql`(found @@ ${term})::int * ${2 ** i}::int`),
      sql` + `,
    )
    const mine = sql`key = any(${sql.param(`{${this.keys.join(',')}}`)}::bigint[])`
    const { phrases } = this.asked
    const wide = this.conditionFor(
      [...terms.slice(0, terms.length - phrases.length), ...phrases.map(one => this.together(one))],
      joint,
    )
    const from = phrases.length
      ? sql`(select * from ${searchText} where ${mine} and found @@ ${wide} limit ${mostLookedThrough}) one where found @@ ${query}`
      : sql`${searchText} where ${mine} and found @@ ${query}`
    const rows = await this.indexed<{
      id: string
      version_id: string
      kind: string
      thing: string
      need: Need
      within: string
      rank: number
      has: number
    }>(sql`
      with hit as (
        select id, version_id, kind, thing, need, within, found from ${from} limit ${mostRanked}
      ), best as (
        select *, ts_rank_cd('{0.2, 0.3, 0.7, 1.0}', found, ${query}, 1)::float8 rank from hit order by rank desc, kind, thing, id limit ${mostLooked}
      ) select id, version_id, kind, thing, need, within, rank, (${has})::int has from best order by rank desc, kind, thing, id`)
    return rows.map(row => ({
      id: Number(row.id),
      versionId: Number(row.version_id),
      resource: { kind: row.kind as Kind, id: row.thing },
      need: row.need,
      within: JSON.parse(row.within) as Condition[],
      rank: row.rank,
      has: row.has,
    }))
  }

  /** The words of a phrase, in whatever order. */
  private together(phrase: readonly string[]): SQL {
    return sql`(${sql.join(
      phrase.map(word => this.term(word)),
      sql` && `,
    )})`
  }

  /**
   * By the index, always: of a word in every tenth piece the planner takes reading all of them for cheaper, since it
   * does not count what unpacking each costs.
   */
  private indexed<R extends Record<string, unknown>>(query: SQL): Promise<readonly R[]> {
    return inTransaction(this.tx, async tx => {
      await tx.execute(sql`set local enable_seqscan = off`)
      return (await tx.execute<R>(query)) as unknown as readonly R[]
    })
  }

  /** By what is found; of what has all the words, the best first. Each piece is decided again, by the rules as they are now. */
  private grouped(pieces: readonly Piece[], terms: number): FoundGroup[] {
    const groups = new Map<string, FoundGroup>()
    for (const piece of pieces)
      for (const thing of this.placesOf(piece)) {
        const name = resourceKey(thing.kind, thing.id)
        const group = groups.get(name) ?? { name, thing, pieces: [], rank: 0, has: 0 }
        groups.set(name, group)
        group.pieces.push(piece)
        group.rank = Math.max(group.rank, piece.rank) + piece.rank / 20
        group.has |= piece.has
      }
    const all = 2 ** terms - 1
    return [...groups.values()].filter(group => group.has === all).sort((a, b) => b.rank - a.rank)
  }

  /** Where a piece is found by this visitor: nowhere, if anything on the way to it is not for them. */
  private placesOf(piece: Piece): Resource[] {
    const { resource, need, within } = piece
    const { snapshot, decider } = this.ask
    const { rules } = snapshot
    if (!this.isNow(piece)) return []
    if (!(decider.bits(resource) & rightBit[need]) || !within.every(one => decider.admitsOrKey(one))) return []
    const isShown = need !== 'open' || isShownIn(resource, rules, decider)
    return isShown ? foundAt(resource, rules).filter(one => decider.bits(one) & rightBit.search) : []
  }

  private async answer(groups: readonly FoundGroup[], near: boolean, terms?: SQL[]): Promise<SearchAnswer> {
    const { rules } = this.ask.snapshot
    const shown = groups
      .filter(({ thing }) => rules.index.pathOf(thing.kind, thing.id) !== undefined)
      .slice(0, this.most + 1)
    const more = shown.length > this.most
    const told = shown.slice(0, this.most)
    const quotes = await this.quotes(
      told.map(one => one.pieces[0]!),
      terms,
    )
    return {
      found: told.map(({ thing, pieces }) => {
        const { title = thing.id } = (rules.index.get(thing.kind, thing.id) ?? {}) as { title?: string }
        return {
          thing,
          title,
          path: rules.index.pathOf(thing.kind, thing.id)!,
          opens: this.ask.decider.decide(thing).open,
          quote: quotes.get(pieces[0]!.id) ?? [],
        }
      }),
      more,
      near,
    }
  }

  /** Of the best piece of each: some of its words around what was searched for. */
  private async quotes(pieces: readonly Piece[], terms?: SQL[]): Promise<ReadonlyMap<number, Said[]>> {
    const ids = pieces.map(one => one.id)
    if (!ids.length) return new Map()
    const query = this.conditionFor([...this.terms(), ...(terms ?? [])], '||')
    // Private-use characters stand around what is meant, which no word has in it.
    const options = `StartSel=${start}, StopSel=${stop}, MaxFragments=2, MaxWords=24, MinWords=10, FragmentDelimiter=" … "`
    const rows = await this.tx.execute<{ id: string; quote: string }>(sql`
      select id, ts_headline(${this.configuration}::regconfig, translate(words, ${start + stop}, ''), ${query}, ${options}) quote
      from ${searchText} where id = any(${sql.param(`{${ids.join(',')}}`)}::bigint[])`)
    return new Map(rows.map(row => [Number(row.id), saidIn(row.quote)]))
  }
}

interface FoundGroup {
  name: string
  thing: Resource
  pieces: Piece[]
  rank: number
  has: number
}

const [start, stop] = ['\uE000', '\uE001']

function saidIn(quote: string): Said[] {
  return quote.split(start).flatMap((part, i) => {
    if (i === 0) return part ? [{ text: part, hit: false }] : []
    const [hit = '', after = ''] = part.split(stop)
    return [{ text: hit, hit: true }, ...(after ? [{ text: after, hit: false }] : [])]
  })
}

/** Of several that stand in one place only the one that is shown is found. */
function isShownIn(thing: Resource, rules: CompiledRules, decider: CompiledDecider): boolean {
  if (!opensWhereItStands(thing, rules, one => decider.decide(one).open)) return false
  const { index } = rules
  for (let at = index.get(thing.kind as string, thing.id) as Standing | undefined; at?.in?.block;) {
    const around = index.get(thing.kind as string, at.in.block) as (Standing & { oneOf?: boolean }) | undefined
    if (around?.oneOf && decider.shows({ kind: thing.kind, id: around.id }) !== at.id) return false
    at = around
  }
  return true
}
