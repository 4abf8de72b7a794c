/**
 * What the live edition is found by, kept up with it: pieces of every thing's words with the weave they are behind.
 * It may lag behind an edition for a moment, and never shows more for that: whatever is found is decided again by the
 * rules of whoever asks.
 */
import { hash } from 'node:crypto'
import { and, eq, isNotNull, notExists, sql } from 'drizzle-orm'
import { canonical } from '../../../core/canonical'
import { perWeave } from '../../../core/gates/per-weave'
import { weaveName } from '../../../core/gates/weave-name'
import { CompiledRules } from '../../../core/gates/compiled'
import { foundAt } from '../../../core/search/found-at'
import { fragmentsOf } from '../../../core/search/fragments'
import type { Need } from '../../../core/search/fragments'
import type { Kind, Resource } from '../../../core/kinds/kinds'
import type { AnyDb, Tx } from '../../db/database'
import { lockFor } from '../../db/locks'
import { idsOf, rowsOf } from '../../db/rows-of'
import { file, searchKey, searchText, searchWord, version } from '../../db/schema'
import { readOwn, writeSetting } from '../settings/settings'
import { contentOf, contentsAt, readState } from '../versions/versions'
import type { StoredVersion } from '../versions/versions'
import { configurationFor } from './languages'

/** Kept beside the settings: which edition is found, and in which language. */
const group = 'search-index'
interface Indexed {
  edition: number
  configuration: string
}
/** Things read at once. */
const batch = 500

const hashed = (name: string) => hash('sha256', name, 'base64url').slice(0, 22)

/** What a piece takes, by the names of the weaves of what is found and of what shows it. */
export interface Key {
  found: string
  shows: string
  need: Need
  within: string
}
/** 52 bits of a hash: what is found is decided again, so two that meet cost nothing but work. */
const keyOf = ({ found, shows, need, within }: Key): number =>
  Number.parseInt(hash('sha256', JSON.stringify([found, shows, need, within]), 'hex').slice(0, 13), 16)

const nowhere = ''
const hashOfWeave = perWeave((weave, rules) => hashed(weaveName(rules.weaves[weave]!.example, rules)!))
export function weaveHash(thing: Resource | undefined, rules: CompiledRules): string {
  const weave = thing ? rules.weaveOf(thing) : -1
  return weave < 0 ? nowhere : hashOfWeave(weave, rules)
}

/** Where a thing is found, when that is one place; what is shared in many is decided where it is shown. */
const placeOf = (thing: Resource, rules: CompiledRules): Resource | undefined => foundAt(thing, rules)[0]

/**
 * Brings it up to the live edition, one at a time; what others are at meanwhile is waited for. Answers whether anything
 * was to be done. `files`: names of files whose words were read just now.
 */
export async function indexSearch(tx: Tx, files: readonly string[] = []): Promise<boolean> {
  await lockFor(tx, 'search')
  const state = await readState(tx)
  const contents = await contentsAt(tx, state, state.live)
  const configuration = configurationFor(contents.frame.locale)
  const known = await readOwn<Indexed>(tx, group)
  const unread = await versionsWith(tx, files)
  if (known?.edition === state.live && known.configuration === configuration && !unread.size) return false
  const there = new Set((await tx.selectDistinct({ id: searchText.versionId }).from(searchText)).map(one => one.id))
  const live = new Map(contents.thingVersions.map(one => [one.id, one]))
  const gone = [...there].filter(id => !live.has(id) || unread.has(id))
  await tx.delete(searchText).where(sql`${searchText.versionId} = any(${sql.param(`{${gone.join(',')}}`)}::bigint[])`)
  const rules = new CompiledRules(contents.book, contents.index)
  const fresh = [...live.values()].filter(one => !there.has(one.id) || unread.has(one.id))
  for (let i = 0; i < fresh.length; i += batch) await addTexts(tx, fresh.slice(i, i + batch), rules, configuration)
  if (known && known.configuration !== configuration)
    await tx.update(searchText).set({ found: lexemes(configuration, sql`need`, sql`title`, sql`words`) })
  await nameAnew(tx, rules)
  await writeSetting(tx, group, { edition: state.live, configuration } satisfies Indexed, 'Bravik')
  return true
}

/** Versions that name one of these files. */
async function versionsWith(tx: AnyDb, files: readonly string[]): Promise<ReadonlySet<number>> {
  if (!files.length) return new Set()
  const rows = await tx
    .select({ id: version.id })
    .from(version)
    .where(sql`${version.content} ->> 'file' in ${idsOf(files)}`)
  return new Set(rows.map(one => one.id))
}

/** Lexemes with the endings of the language, and as they are: a word that is half typed is the beginning of one as it is. */
const lexemes = (
  configuration: string,
  need: ReturnType<typeof sql>,
  title: ReturnType<typeof sql>,
  words: ReturnType<typeof sql>,
) => {
  const both = (text: ReturnType<typeof sql>) =>
    sql`(to_tsvector(${configuration}::regconfig, ${text}) || to_tsvector('simple', ${text}))`
  const light = sql`case when ${need} = 'search' then 'B' else 'D' end`
  return sql`setweight(${both(title)}, 'A') || setweight(${both(words)}, (${light})::"char")`
}

async function addTexts(
  tx: Tx,
  versions: readonly StoredVersion[],
  rules: CompiledRules,
  configuration: string,
): Promise<void> {
  const contents = await contentOf(
    tx,
    versions.map(one => one.id),
  )
  const files = await wordsOfFiles(
    tx,
    [...contents.values()].map(one => one.file).filter(name => typeof name === 'string'),
  )
  const rows = versions.flatMap(({ id, kind, key, body }) => {
    const content = contents.get(id) ?? {}
    const thing = { kind: kind as Kind, id: key }
    const whole = { ...(body as object), ...content }
    const [found, shows] = [weaveHash(placeOf(thing, rules), rules), weaveHash(thing, rules)]
    const pieces = fragmentsOf(kind, whole, files.get(String(content.file)) ?? '')
    // One row without words says that there are none to look for again.
    const all = pieces.length ? pieces : [{ need: 'open' as const, within: [], title: '', words: '' }]
    return all.map(({ need, within, title, words }) => {
      const what = { found, shows, need, within: canonical(within) }
      return { version_id: id, kind, thing: key, ...what, key: keyOf(what), title, words }
    })
  })
  const shape =
    'version_id bigint, kind text, thing text, found text, shows text, need text, within text, key bigint, title text, words text'
  const given = rowsOf(rows, shape)
  await tx.execute(
    sql`insert into ${searchKey} (key, found, shows, need, within) select distinct on (key) key, found, shows, need, within from ${given} on conflict do nothing`,
  )
  await tx.execute(sql`
    insert into ${searchText} (version_id, kind, thing, need, within, key, title, words, found)
    select version_id, kind, thing, need, within, key, title, words, ${lexemes(configuration, sql`need`, sql`title`, sql`words`)}
    from ${given}`)
  await tx.execute(sql`
    insert into ${searchWord} (word)
    select distinct word from ${given}, unnest(tsvector_to_array(to_tsvector('simple', title || ' ' || words))) word
    where char_length(word) between 3 and 40 and word !~ '[0-9]' on conflict do nothing`)
}

async function wordsOfFiles(tx: AnyDb, names: readonly string[]): Promise<ReadonlyMap<string, string>> {
  if (!names.length) return new Map()
  const rows = await tx
    .select({ name: file.name, words: file.words })
    .from(file)
    .where(and(isNotNull(file.words), sql`${file.name} in ${idsOf(names)}`))
  return new Map(rows.map(one => [one.name, one.words!]))
}

/** Rows named anew before others have their turn: a site may have very many, and its pages wait for none of it. */
const namedAtOnce = 500

/** Things lie behind other gates than before, wherever gates or places moved: what they take is named anew. */
async function nameAnew(tx: Tx, rules: CompiledRules): Promise<void> {
  const places = new Map<string, Pick<Key, 'found' | 'shows'>>()
  const placeIn = (kind: string, id: string) => {
    const name = `${kind} ${id}`
    let at = places.get(name)
    if (!at) {
      const thing: Resource = { kind: kind as Kind, id }
      places.set(name, (at = { found: weaveHash(placeOf(thing, rules), rules), shows: weaveHash(thing, rules) }))
    }
    return at
  }
  const keys = new Map<string, number>()
  const keyNow = (key: Key) => {
    const name = `${key.found} ${key.shows} ${key.need} ${key.within}`
    let number = keys.get(name)
    if (number === undefined) keys.set(name, (number = keyOf(key)))
    return number
  }
  await tx.execute(
    sql`declare search_things no scroll cursor for select distinct kind, thing, need, within, key::text from ${searchText}`,
  )
  for (;;) {
    const things = await tx.execute<{ kind: string; thing: string; need: Need; within: string; key: string }>(
      sql`fetch ${sql.raw(String(namedAtOnce))} from search_things`,
    )
    if (!things.length) break
    await moveKeys(
      tx,
      things.flatMap(({ kind, thing, need, within, key: old }) => {
        const now = { ...placeIn(kind, thing), need, within }
        const key = keyNow(now)
        return key === Number(old) ? [] : [{ kind, thing, ...now, old: Number(old), key }]
      }),
    )
  }
  await tx.execute(sql`close search_things`)
  const named = tx.select().from(searchText).where(eq(searchText.key, searchKey.key))
  await tx.delete(searchKey).where(notExists(named))
}

async function moveKeys(tx: Tx, moved: readonly (Key & { kind: string; thing: string; old: number; key: number })[]) {
  if (!moved.length) return
  const shape = 'kind text, thing text, found text, shows text, need text, within text, old bigint, key bigint'
  const given = rowsOf(moved, shape)
  await tx.execute(
    sql`insert into ${searchKey} (key, found, shows, need, within) select distinct on (key) key, found, shows, need, within from ${given} on conflict do nothing`,
  )
  await tx.execute(
    sql`update ${searchText} t set key = given.key from ${given} where t.kind = given.kind and t.thing = given.thing and t.key = given.old and t.need = given.need and t.within = given.within`,
  )
}
