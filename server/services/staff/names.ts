/** Names of persons and firms for sentences: those rules name already, and those somebody types the beginning of. */
import { and, asc, inArray, sql } from 'drizzle-orm'
import { isEntryKind } from '../../../core/editions/contents'
import type { Version } from '../../../core/editions/contents'
import { mayStaff } from '../../../core/staff/staff-rule'
import type { StaffRights } from '../../../core/staff/staff-rule'
import type { AnyDb } from '../../db/database'
import { firm, person } from '../../db/schema'
import { seesPeople } from './people-seen'

export interface Names {
  people: { id: string; name: string }[]
  firms: { id: string; name: string }[]
}

const seesFirms = (rights: StaffRights) =>
  rights.masterKey ||
  (['firms', 'people', 'gates'] as const).some(kind => mayStaff(rights, { kind, action: 'look' }).allowed)

/** Of everybody rules name, live or in the draft, the names that may be told. */
export async function namedInRules(
  tx: AnyDb,
  rights: StaffRights,
  versions: readonly Pick<Version, 'kind' | 'body'>[],
): Promise<Names> {
  const ids = { person: new Set<string>(), firm: new Set<string>() }
  for (const { kind, body } of versions) if (isEntryKind(kind)) gather(body, ids)
  const [people, firms] = await Promise.all([
    ids.person.size && seesPeople(rights, 'name')
      ? tx
          .select({ id: person.id, name: person.name })
          .from(person)
          .where(inArray(person.id, [...ids.person].slice(0, 1000)))
      : [],
    ids.firm.size && seesFirms(rights)
      ? tx
          .select({ id: firm.id, name: firm.name })
          .from(firm)
          .where(inArray(firm.id, [...ids.firm].slice(0, 1000)))
      : [],
  ])
  return { people, firms }
}

/** `{ person: { in: […] } }` wherever it stands in a rule. */
function gather(value: unknown, ids: { person: Set<string>; firm: Set<string> }): void {
  if (typeof value !== 'object' || value === null) return
  for (const [key, inner] of Object.entries(value)) {
    const list = (key === 'person' || key === 'firm') && (inner as { in?: unknown } | null)?.in
    if (Array.isArray(list)) for (const id of list) if (typeof id === 'string') ids[key as 'person' | 'firm'].add(id)
    gather(inner, ids)
  }
}

const most = 8
const contains = (text: string) => `%${text.toLowerCase().replaceAll(/[\\%_]/g, char => `\\${char}`)}%`

/** At most eight persons and eight firms whose names have all of these words in them. */
export async function findNames(tx: AnyDb, rights: StaffRights, text: string): Promise<Names> {
  const words = text.split(/\s+/).filter(Boolean).slice(0, 6).map(contains)
  if (!words.length) return { people: [], firms: [] }
  const [people, firms] = await Promise.all([
    seesPeople(rights, 'name')
      ? tx
          .select({ id: person.id, name: person.name })
          .from(person)
          // The index is on both name and address; what is told is by the name alone.
          .where(and(...words.map(word => sql`person.find_text like ${word} and lower(person.name) like ${word}`)))
          .orderBy(asc(sql`lower(${person.name})`), asc(person.id))
          .limit(most)
      : [],
    seesFirms(rights)
      ? tx
          .select({ id: firm.id, name: firm.name })
          .from(firm)
          .where(and(...words.map(word => sql`lower(${firm.name}) like ${word}`)))
          .orderBy(asc(firm.name), asc(firm.id))
          .limit(most)
      : [],
  ])
  return { people, firms }
}
