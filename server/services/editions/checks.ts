/** What may not be: rules or things that do not hold together, and what people hold being taken from under them. */
import { sql } from 'drizzle-orm'
import { placeIssues } from '../../../core/check/placed-issue'
import { brokenTexts, siteIssues } from '../../../core/check/site-check'
import { validateRulebook } from '../../../core/check/validate'
import type { Contents, Version } from '../../../core/editions/contents'
import { issueCodes } from '../../../core/errors'
import { kindNames } from '../../../core/sentences/words'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { clockDate } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { Problem } from '../../problem'
import { refuseNoKeeper } from '../standing/keepers'

/** Bodies of versions are never changed in place: one that was right stays so. */
const sound = new WeakSet<object>()

/** What a person calls it. */
export const titled = ({ kind, key, body }: Version) => {
  const { title, name, label } = (body ?? {}) as { title?: string; name?: string; label?: string }
  return `${kindNames[kind as 'page'] ?? kind} “${title ?? name ?? label ?? key}”`
}

/**
 * Refuses an edition that would not hold together. `only`: names of what was changed, when the rest
 * was right before. As `in-use` the refusal names what still needs what goes.
 */
export function refuseBroken(
  contents: Contents,
  code: 'rules-broken' | 'in-use' = 'rules-broken',
  only?: ReadonlySet<string>,
): void {
  const rules = placeIssues(contents.book, validateRulebook(contents.book, contents.index, sound))
  const things = siteIssues(contents, only)
  if (!rules.length && !things.length) return
  const taken = things.find(one => one.code === 'address-taken')
  if (taken)
    throw new Problem(
      'address-taken',
      { title: titled(contents.get(taken.kind, taken.key)!), path: String(taken.found) },
      { at: '/path', holder: taken.key },
    )
  const names = new Set([
    ...rules.map(({ at, entry }) => (entry?.name ? `${entry.kind} “${entry.name}”` : entry ? `the ${entry.kind}` : at)),
    ...things.map(({ kind, key }) => titled(contents.get(kind, key)!)),
  ])
  const issues = [...rules, ...things]
  if (code === 'in-use') throw new Problem('still-used', { by: [...names] }, { issues })
  const broken = [
    ...rules.map(({ at, message }) => ({ at, message })),
    ...things.map(one => ({ at: `${one.kind} ${one.key} ${one.at}`, message: issueCodes[one.code] })),
  ]
  throw new Problem('edition-broken', { broken }, { issues })
}

/** Refuses an edition with a text in it that nobody would be sent. */
export function refuseBrokenTexts(contents: Contents): void {
  const broken = brokenTexts(contents)
  if (broken.length)
    throw new Problem(
      'edition-broken',
      { broken: broken.map(one => ({ at: titled(contents.get(one.kind, one.key)!), message: one.message })) },
      { issues: broken },
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
  if (bringing) throw new Problem('level-brings-staff-role', { level: bringing.name ?? bringing.id })
  await refuseNoKeeper(tx, live.settings?.masterKeys ?? [], next.settings?.masterKeys ?? [])
}

/** A role that people hold already, or are about to, does not become a staff role. */
export async function refuseHeldRole(tx: AnyDb, book: Rulebook, key: string): Promise<void> {
  const now = clockDate().toISOString()
  const [held] = await tx.execute<{
    people: number
    firms: number
    invited: number
    asking: number
    orders: number
  }>(sql`select
    (select count(*)::int from role_grant where role = ${key}) people,
    (select count(*)::int from firm_role where role = ${key}) firms,
    (select count(*)::int from order_line l join shop_order o on o.id = l.order_id where l.gives -> 'roles' ? ${key} and o.state in ('placed', 'paid', 'sent') and l.refunded_pieces < l.quantity) orders,
    (select count(*)::int from one_time_link where purpose = 'invite' and used_at is null and expires_at > ${now}::timestamptz and data -> 'roles' ? ${key}) invited,
    (select count(*)::int from application where target = ${`role ${key}`} and state = 'waiting') asking`)
  const levels = (book.levels ?? []).filter(level => level.roles?.includes(key)).map(level => level.name ?? level.id)
  const holders = [
    ...(held!.people ? [`${held!.people} ${held!.people === 1 ? 'person' : 'people'}`] : []),
    ...(held!.firms ? [`${held!.firms} ${held!.firms === 1 ? 'firm' : 'firms'}`] : []),
    ...(held!.orders ? [`${held!.orders} ${held!.orders === 1 ? 'order' : 'orders'}`] : []),
    ...(held!.invited ? [`${held!.invited} ${held!.invited === 1 ? 'invitation' : 'invitations'}`] : []),
    ...(held!.asking ? [`${held!.asking} who asked for it`] : []),
    ...levels.map(level => `the level ${level}`),
  ]
  if (holders.length) throw new Problem('holders-would-be-staff', { holders })
}
/** A level or role stays while somebody holds it, a firm does, or somebody is about to pay for it. */
export async function refuseHeld(tx: AnyDb, kind: string, key: string): Promise<void> {
  if (kind !== 'level' && kind !== 'role') return
  const now = clockDate().toISOString()
  const [held] = await tx.execute<{ people: number; firms: number; buying: number; asking: number }>(
    kind === 'level'
      ? sql`select
        (select count(distinct person_id)::int from membership where level = ${key} and (until is null or until > ${now}::timestamptz)) people,
        (select count(distinct firm_id)::int from firm_level where level = ${key} and (until is null or until > ${now}::timestamptz)) firms,
        (select count(*)::int from purchase where level = ${key} and state = 'pending' and (by_itself or expires_at > ${now}::timestamptz))
          + (select count(*)::int from order_line l join shop_order o on o.id = l.order_id where l.gives ->> 'level' = ${key} and l.purchase is null and o.state in ('placed', 'paid', 'sent') and l.refunded_pieces < l.quantity) buying,
        (select count(*)::int from application where target = ${`level ${key}`} and state = 'waiting') asking`
      : sql`select
        (select count(*)::int from role_grant where role = ${key}) people,
        (select count(*)::int from firm_role where role = ${key}) firms,
        (select count(*)::int from order_line l join shop_order o on o.id = l.order_id where l.gives -> 'roles' ? ${key} and o.state in ('placed', 'paid', 'sent') and l.refunded_pieces < l.quantity) buying,
        (select count(*)::int from application where target = ${`role ${key}`} and state = 'waiting') asking`,
  )
  const count = (n: number, one: string, many: string) => (n ? [`${n} ${n === 1 ? one : many}`] : [])
  const { people, firms, buying, asking } = held!
  const holders = [...count(people, 'person', 'people'), ...count(firms, 'firm', 'firms')]
  if (holders.length) throw new Problem('held', { holders }, { people, firms })
  if (buying)
    throw new Problem(
      'being-bought',
      { buying },
      {
        buying,
      },
    )
  if (asking)
    throw new Problem(
      'being-asked-for',
      { asking },
      {
        asking,
      },
    )
}
