/** The versioned rulebook: what any edition holds, changes of the draft, publishing. */
import { and, asc, eq, isNull, lt, max, sql } from 'drizzle-orm'
import { canonical } from '../../../core/cases/run-cases'
import { entryKinds, rulebookOf, singleKey } from '../../../core/rulebook/rulebook'
import type { EntryKind, Rulebook, RuleEntry } from '../../../core/rulebook/rulebook'
import { issuesOf, validateRulebook } from '../../../core/rulebook/validate'
import { placeIssues } from '../../../core/rulebook/placed-issue'
import type { Database, Tx } from '../../db/database'
import { edition, ruleEntry, siteState } from '../../db/schema'
import { clockDate } from '../../clock'
import { Problem } from '../../problem'
import { refuseNoKeeper } from '../people/keepers'
import { readInventory } from './inventory'
import { leaveTrace } from '../trace'
import type { Actor } from '../trace'

export interface StoredEntry {
  id: number
  revision: number
  kind: EntryKind
  key: string
  position: number
  body: unknown
  editionFrom: number
  changedBy: string
  changedAt: Date
}

/** What a keeper was looking at: a row and its revision, or null for "there was nothing". */
export type Expects = { id: number; revision: number } | null

/** The entries of an edition, in rulebook order; removed ones have a body of null. */
export async function entriesAt(tx: Tx, number: number): Promise<StoredEntry[]> {
  const rows = await tx.execute(sql`
    select * from (
      select distinct on (kind, key) id, revision, kind, key, position, body, edition_from as "editionFrom", changed_by as "changedBy", changed_at as "changedAt"
      from rule_entry where edition_from <= ${number} and (edition_to is null or edition_to > ${number})
      order by kind, key, edition_from desc
    ) newest order by position, id`)
  return (rows as unknown as StoredEntry[]).map(row => ({
    ...row,
    id: Number(row.id),
    changedAt: new Date(row.changedAt),
  }))
}

export const bookOf = (entries: readonly StoredEntry[]): Rulebook =>
  rulebookOf(entries.filter(entry => entry.body !== null))

export async function liveEdition(tx: Tx): Promise<number> {
  const [state] = await tx.select({ live: siteState.liveEdition }).from(siteState)
  return state?.live ?? 0
}

/** One change of rules, settings or content at a time: taken before anything is read for changing, and before any other lock. */
export async function lockRules(tx: Tx): Promise<number> {
  const [state] = await tx.select({ live: siteState.liveEdition }).from(siteState).for('update')
  if (!state) throw new Problem('not-found', 'The site has not been set up yet.')
  return state.live
}

/**
 * The live rules, which nobody publishes over before the transaction ends: for
 * giving what they name. Many may give at once. Take it before any other lock,
 * and not together with `lockRules`.
 */
export async function lockedBook(tx: Tx): Promise<Rulebook> {
  const [state] = await tx.select({ live: siteState.liveEdition }).from(siteState).for('share')
  if (!state) throw new Problem('not-found', 'The site has not been set up yet.')
  return bookOf(await entriesAt(tx, state.live))
}

/** Asked with the draft as it is, once nobody else can change it: throws where the person may not put this entry there. */
export type Permit = (tx: Tx, draft: readonly StoredEntry[], entry: RuleEntry) => void | Promise<void>

export interface SaveEntry {
  kind: EntryKind
  key: string
  body: unknown
  expects: Expects
  actor: Actor
  permit?: Permit
}

/** Puts one entry into the draft. Refuses what would leave the draft broken; the draft then stays as it was. */
export async function saveEntry(
  db: Database,
  { kind, key, body, expects, actor, permit }: SaveEntry,
): Promise<StoredEntry | null> {
  return db.transaction(async tx => {
    const draft = (await lockRules(tx)) + 1
    const entries = await entriesAt(tx, draft)
    await permit?.(tx, entries, { kind, key, body })
    checkBody(kind, key, body)
    const current = entries.find(entry => entry.kind === kind && entry.key === key)
    checkExpected(current, expects)
    const position = current?.position ?? (await nextPosition(tx))
    const changed = entries
      .filter(entry => entry !== current)
      .concat({ ...(current ?? ({} as StoredEntry)), kind, key, body, position })
      .sort((a, b) => a.position - b.position)
    await refuseBroken(tx, changed)
    await writeDraft(tx, draft, { kind, key, body, position, actor })
    await leaveTrace(tx, actor, 'rules.change', `${kind} ${key}`, { body })
    await notifyChanged(tx)
    return (
      (await entriesAt(tx, draft)).find(entry => entry.kind === kind && entry.key === key && entry.body !== null) ??
      null
    )
  })
}

/** Takes one entry out in the draft; refuses, naming what uses it, when something does. */
export async function removeEntry(
  db: Database,
  { kind, key, expects, actor, permit }: Omit<SaveEntry, 'body'>,
): Promise<void> {
  await db.transaction(async tx => {
    const draft = (await lockRules(tx)) + 1
    const entries = await entriesAt(tx, draft)
    await permit?.(tx, entries, { kind, key, body: null })
    const current = entries.find(entry => entry.kind === kind && entry.key === key && entry.body !== null)
    if (!current) throw new Problem('not-found', `There is no ${kind} “${key}”.`)
    checkExpected(current, expects)
    await refuseHeld(tx, kind, key)
    await refuseBroken(
      tx,
      entries.filter(entry => entry !== current),
      'in-use',
    )
    await writeDraft(tx, draft, { kind, key, body: null, position: current.position, actor })
    await leaveTrace(tx, actor, 'rules.remove', `${kind} ${key}`)
    await notifyChanged(tx)
  })
}

/** Puts an entry of an ordered list before another, or last; in the draft. */
export async function moveEntry(
  db: Database,
  { kind, key, before, actor }: { kind: EntryKind; key: string; before: string | null; actor: Actor },
): Promise<void> {
  await db.transaction(async tx => {
    const draft = (await lockRules(tx)) + 1
    const list = (await entriesAt(tx, draft)).filter(entry => entry.kind === kind && entry.body !== null)
    const moved = list.find(entry => entry.key === key)
    const others = list.filter(entry => entry !== moved)
    const at = before === null ? others.length : others.findIndex(entry => entry.key === before)
    if (!moved || at < 0) throw new Problem('not-found', `There is no such ${kind}.`)
    const [above, below] = [others[at - 1]?.position, others[at]?.position]
    const position = below === undefined ? (above ?? 0) + 1 : above === undefined ? below - 1 : (above + below) / 2
    await tx
      .insert(ruleEntry)
      .values({ kind, key, body: moved.body, position, editionFrom: draft, changedBy: actor.name })
      .onConflictDoUpdate({
        target: [ruleEntry.kind, ruleEntry.key, ruleEntry.editionFrom],
        set: { position, changedBy: actor.name, changedAt: sql`now()`, revision: sql`${ruleEntry.revision} + 1` },
      })
    await leaveTrace(tx, actor, 'rules.move', `${kind} ${key}`, { before })
    await notifyChanged(tx)
  })
}

/** Undoes one change of the draft: the entry is again as it is live. */
export async function undoEntry(
  db: Database,
  { kind, key, actor, permit }: Omit<SaveEntry, 'body' | 'expects'>,
): Promise<void> {
  await db.transaction(async tx => {
    const draft = (await lockRules(tx)) + 1
    const entries = await entriesAt(tx, draft)
    const live = (await entriesAt(tx, draft - 1)).find(entry => entry.kind === kind && entry.key === key)
    await permit?.(tx, entries, { kind, key, body: live?.body ?? null })
    const without = entries
      .filter(entry => !(entry.kind === kind && entry.key === key))
      .concat(live ?? [])
      .sort((a, b) => a.position - b.position)
    await refuseBroken(tx, without, 'in-use')
    const gone = await tx
      .delete(ruleEntry)
      .where(and(eq(ruleEntry.kind, kind), eq(ruleEntry.key, key), eq(ruleEntry.editionFrom, draft)))
      .returning({ id: ruleEntry.id })
    if (!gone.length) throw new Problem('not-found', 'The draft holds no such change.')
    await leaveTrace(tx, actor, 'rules.undo', `${kind} ${key}`)
    await notifyChanged(tx)
  })
}

export interface Publish {
  note: string
  /** The live edition the keeper saw. */
  expects: number
  actor: Actor
  /** Asked once nobody can change the draft any more: throws where the keeper may not publish what it holds. */
  authorise?(tx: Tx): Promise<void>
}

/** Makes the draft the next edition, in one transaction; every server hears of it. Returns its number. */
export async function publish(db: Database, { note, expects, actor, authorise }: Publish): Promise<number> {
  return db.transaction(async tx => {
    const live = await lockRules(tx)
    if (live !== expects) throw new Problem('changed-meanwhile', `Edition ${live} was published meanwhile.`, { live })
    await authorise?.(tx)
    const next = live + 1
    const changes = await tx
      .select({ kind: ruleEntry.kind, key: ruleEntry.key })
      .from(ruleEntry)
      .where(eq(ruleEntry.editionFrom, next))
    if (!changes.length) throw new Problem('nothing-to-publish')
    const entries = await entriesAt(tx, next)
    await refuseBroken(tx, entries)
    // What was looked at when the draft was written may have moved since: somebody was given a role, or invited with it.
    await refuseRisen(tx, bookOf(await entriesAt(tx, live)), bookOf(entries))
    // Somebody may have got, or begun to buy, what the draft takes out.
    for (const gone of entries.filter(entry => entry.editionFrom === next && entry.body === null))
      await refuseHeld(tx, gone.kind, gone.key)
    await tx.insert(edition).values({ number: next, publishedBy: actor.name, note })
    await tx.execute(sql`
      update rule_entry old set edition_to = ${next} from rule_entry fresh
      where fresh.edition_from = ${next} and old.kind = fresh.kind and old.key = fresh.key and old.edition_from < ${next} and old.edition_to is null`)
    await tx.update(siteState).set({ liveEdition: next })
    await leaveTrace(tx, actor, 'rules.publish', `edition ${next}`, { note, changes: changes.length })
    await notifyChanged(tx)
    return next
  })
}

export interface DraftChange {
  kind: EntryKind
  key: string
  id: number
  revision: number
  before: unknown
  after: unknown
  changedBy: string
  changedAt: Date
}

export async function draftChanges(tx: Tx): Promise<DraftChange[]> {
  const live = await liveEdition(tx)
  const before = new Map((await entriesAt(tx, live)).map(entry => [`${entry.kind} ${entry.key}`, entry.body]))
  const rows = await tx
    .select()
    .from(ruleEntry)
    .where(eq(ruleEntry.editionFrom, live + 1))
    .orderBy(asc(ruleEntry.changedAt))
  return rows.map(row => ({
    kind: row.kind as EntryKind,
    key: row.key,
    id: row.id,
    revision: row.revision,
    before: before.get(`${row.kind} ${row.key}`) ?? null,
    after: row.body,
    changedBy: row.changedBy,
    changedAt: row.changedAt,
  }))
}

function checkBody(kind: EntryKind, key: string, body: unknown): void {
  const parsed = entryKinds[kind].schema.safeParse(body, { reportInput: true })
  if (!parsed.success) throw new Problem('bad-input', undefined, { issues: issuesOf(parsed.error.issues) })
  const id = 'single' in entryKinds[kind] ? singleKey : (body as { id?: string }).id
  if (id !== key) throw new Problem('bad-input', 'The id in the body is not the one in the address.')
}

function checkExpected(current: StoredEntry | undefined, expects: Expects): void {
  const same =
    current === undefined || current.body === null
      ? expects === null || (expects.id === current?.id && expects.revision === current?.revision)
      : expects !== null && expects.id === current.id && expects.revision === current.revision
  if (same) return
  throw new Problem(
    'changed-meanwhile',
    current ? `${current.changedBy} changed this while you were editing.` : 'This was removed while you were editing.',
    {
      current:
        current && current.body !== null
          ? {
              id: current.id,
              revision: current.revision,
              body: current.body,
              changedBy: current.changedBy,
              changedAt: current.changedAt,
            }
          : null,
    },
  )
}

async function nextPosition(tx: Tx): Promise<number> {
  const [row] = await tx.select({ last: max(ruleEntry.position) }).from(ruleEntry)
  return (row?.last ?? 0) + 1
}

async function refuseBroken(
  tx: Tx,
  entries: StoredEntry[],
  code: 'rules-broken' | 'in-use' = 'rules-broken',
): Promise<void> {
  const book = bookOf(entries)
  const issues = placeIssues(book, validateRulebook(book, (await readInventory(tx)).site))
  if (!issues.length) return
  const names = [
    ...new Set(
      issues.map(({ at, entry }) => (entry?.name ? `${entry.kind} “${entry.name}”` : entry ? `the ${entry.kind}` : at)),
    ),
  ]
  throw new Problem(
    code,
    code === 'in-use'
      ? `Still used by ${names.join(', ')}.`
      : issues.map(issue => `${issue.at}: ${issue.message}`).join(' '),
    { issues },
  )
}

/**
 * Roles that become staff roles with this edition must be held by nobody, be
 * brought by no level, firm or invitation, and be asked for by nobody: all of
 * them would enter the loft by one tick. The master keys keep somebody who can sign in.
 */
export async function refuseRisen(tx: Tx, live: Rulebook, next: Rulebook): Promise<void> {
  const staffBefore = new Set((live.roles ?? []).filter(role => role.staff).map(role => role.id))
  for (const role of next.roles ?? [])
    if (role.staff && !staffBefore.has(role.id)) await refuseHeldRole(tx, next, role.id)
  const staff = new Set((next.roles ?? []).filter(role => role.staff).map(role => role.id))
  const bringing = (next.levels ?? []).find(level => level.roles?.some(role => staff.has(role)))
  if (bringing)
    throw new Problem(
      'in-use',
      `The level “${bringing.name ?? bringing.id}” brings a staff role: it goes to people by name, never with a level.`,
    )
  await refuseNoKeeper(tx, live.settings?.masterKeys ?? [], next.settings?.masterKeys ?? [])
}

/** A role that people hold already, or are about to, does not become a staff role. */
export async function refuseHeldRole(tx: Tx, book: Rulebook, key: string): Promise<void> {
  const now = clockDate().toISOString()
  const [held] = await tx.execute<{ people: number; firms: number; invited: number; asking: number }>(sql`select
    (select count(*)::int from role_grant where role = ${key}) people,
    (select count(*)::int from firm_role where role = ${key}) firms,
    (select count(*)::int from one_time_link where purpose = 'invite' and used_at is null and expires_at > ${now}::timestamptz and data -> 'roles' ? ${key}) invited,
    (select count(*)::int from application where target = ${`role ${key}`} and state = 'waiting') asking`)
  const levels = (book.levels ?? []).filter(level => level.roles?.includes(key)).map(level => level.name ?? level.id)
  const holders = [
    ...(held!.people ? [`${held!.people} ${held!.people === 1 ? 'person' : 'people'}`] : []),
    ...(held!.firms ? [`${held!.firms} ${held!.firms === 1 ? 'firm' : 'firms'}`] : []),
    ...(held!.invited ? [`${held!.invited} ${held!.invited === 1 ? 'invitation' : 'invitations'}`] : []),
    ...(held!.asking ? [`${held!.asking} who asked for it`] : []),
    ...levels.map(level => `the level ${level}`),
  ]
  if (holders.length)
    throw new Problem(
      'in-use',
      `Held by ${holders.join(', ')}: they would all enter the loft. Make a new staff role, and hand it out by name.`,
    )
}

/** A level or role stays while somebody holds it, a firm does, or somebody is about to pay for it. */
async function refuseHeld(tx: Tx, kind: EntryKind, key: string): Promise<void> {
  if (kind !== 'level' && kind !== 'role') return
  const now = clockDate().toISOString()
  const [held] = await tx.execute<{ people: number; firms: number; buying: number; asking: number }>(
    kind === 'level'
      ? sql`select
        (select count(distinct person_id)::int from membership where level = ${key} and (until is null or until > ${now}::timestamptz)) people,
        (select count(distinct firm_id)::int from firm_level where level = ${key} and (until is null or until > ${now}::timestamptz)) firms,
        (select count(*)::int from purchase where level = ${key} and state = 'pending' and (by_itself or expires_at > ${now}::timestamptz)) buying,
        (select count(*)::int from application where target = ${`level ${key}`} and state = 'waiting') asking`
      : sql`select
        (select count(*)::int from role_grant where role = ${key}) people,
        (select count(*)::int from firm_role where role = ${key}) firms, 0 buying,
        (select count(*)::int from application where target = ${`role ${key}`} and state = 'waiting') asking`,
  )
  const count = (n: number, one: string, many: string) => (n ? [`${n} ${n === 1 ? one : many}`] : [])
  const { people, firms, buying, asking } = held!
  const holders = [...count(people, 'person', 'people'), ...count(firms, 'firm', 'firms')]
  if (holders.length) throw new Problem('in-use', `Held by ${holders.join(' and ')}.`, { people, firms })
  if (buying)
    throw new Problem('in-use', `${buying} ${buying === 1 ? 'person is' : 'people are'} buying it right now.`, {
      buying,
    })
  if (asking)
    throw new Problem('in-use', `${asking} ${asking === 1 ? 'application waits' : 'applications wait'} for it.`, {
      asking,
    })
}

interface DraftRow {
  kind: EntryKind
  key: string
  body: unknown
  position: number
  actor: Actor
}

/** Writes the draft's version of an entry, or drops it where it would say what is live already. */
async function writeDraft(tx: Tx, draft: number, { kind, key, body, position, actor }: DraftRow): Promise<void> {
  const [live] = await tx
    .select({ body: ruleEntry.body, position: ruleEntry.position })
    .from(ruleEntry)
    .where(
      and(
        eq(ruleEntry.kind, kind),
        eq(ruleEntry.key, key),
        lt(ruleEntry.editionFrom, draft),
        isNull(ruleEntry.editionTo),
      ),
    )
  if (canonical(live?.body ?? null) === canonical(body) && (body === null || live?.position === position)) {
    await tx
      .delete(ruleEntry)
      .where(and(eq(ruleEntry.kind, kind), eq(ruleEntry.key, key), eq(ruleEntry.editionFrom, draft)))
    return
  }
  await tx
    .insert(ruleEntry)
    .values({ kind, key, body, position, editionFrom: draft, changedBy: actor.name })
    .onConflictDoUpdate({
      target: [ruleEntry.kind, ruleEntry.key, ruleEntry.editionFrom],
      set: {
        body: sql`excluded.body`,
        changedBy: actor.name,
        changedAt: sql`now()`,
        revision: sql`${ruleEntry.revision} + 1`,
      },
    })
}

export const changeChannel = 'bravik_changed'

/** Tells every server process, once the transaction is through. */
export async function notifyChanged(tx: Tx): Promise<void> {
  await tx.execute(sql`select pg_notify(${changeChannel}, '')`)
}

/** After a change of content: the inventory is read anew everywhere. Refuses what would leave a rule pointing at nothing. */
export async function contentChanged(tx: Tx): Promise<void> {
  const live = await lockRules(tx)
  for (const number of [live, live + 1]) await refuseBroken(tx, await entriesAt(tx, number), 'in-use')
  await bumpContent(tx)
}

/** After a change of what no rule can point at, such as settings: everything is read anew everywhere. */
export async function bumpContent(tx: Tx): Promise<void> {
  await tx.update(siteState).set({ contentVersion: sql`${siteState.contentVersion} + 1` })
  await notifyChanged(tx)
}
