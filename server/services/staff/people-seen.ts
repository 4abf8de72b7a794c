/**
 * What of people staff may look at: looking may be narrowed to some fields, and then nothing tells of the others,
 * nor can a list be asked by them.
 */
import { eachLeaf } from '../../../core/conditions/condition'
import type { Condition } from '../../../core/conditions/condition'
import { staffKinds } from '../../../core/staff/staff-kinds'
import { mayStaff } from '../../../core/staff/staff-rule'
import type { StaffRights } from '../../../core/staff/staff-rule'
import { authorise } from './authorise'

/** What is asked of a list of people, and what it tells of one. */
interface Question {
  search?: string | undefined
  standing?: unknown
  condition?: unknown
  stage?: { reached: string } | undefined
}
interface Told {
  id: string
  name: string
  email: string
  memberships: unknown[]
  roles: string[]
  standing?: unknown
}

export type PeopleField = (typeof staffKinds.people.fields)[number]
const everyField: PeopleField[] = [...staffKinds.people.fields]

export const seesPeople = (rights: StaffRights, ...fields: PeopleField[]): boolean =>
  mayStaff(rights, { kind: 'people', action: 'look', fields }).allowed
/** Throws `not-allowed` unless these fields of people may be looked at. */
export const authoriseSeeing = (rights: StaffRights, ...fields: PeopleField[]): void =>
  authorise(rights, { kind: 'people', action: 'look', fields })
/** Whether nothing of people is kept from them. */
export const seesWhole = (rights: StaffRights): boolean => seesPeople(rights, ...everyField)
export const authoriseSeeingWhole = (rights: StaffRights): void => authoriseSeeing(rights, ...everyField)

/** Fields conditions of these leaves tell of; of every other leaf that looks at a person, all that rules look at. */
const toldBy: Record<string, PeopleField[]> = {
  everyone: [],
  nobody: [],
  signedIn: [],
  person: [],
  firm: [],
  level: ['levels'],
  role: ['levels', 'roles'],
  permission: ['levels', 'roles'],
  fact: ['facts'],
}

/** For asking a list of people. What a question sifts by, its answer tells. */
export function authorisePeopleQuery(rights: StaffRights, { standing, condition, stage }: Question): void {
  const fields = new Set<PeopleField>(standing || stage ? ['standing'] : [])
  if (stage?.reached === 'bought') fields.add('levels')
  if (condition)
    eachLeaf(condition as Condition, key => {
      for (const field of toldBy[key] ?? (['levels', 'roles', 'facts'] as const)) fields.add(field)
    })
  if (fields.size) authoriseSeeing(rights, ...fields)
}

/** What words are looked for in. Throws `not-allowed` where there is nothing to find people by. */
export function searchedBy(rights: StaffRights, query: Question): { search?: 'name' | 'address' } {
  if (!query.search?.trim() || seesPeople(rights, 'name', 'address')) return {}
  if (seesPeople(rights, 'address')) return { search: 'address' }
  authoriseSeeing(rights, 'name')
  return { search: 'name' }
}

/** Somebody without what may not be seen of them: who has no name here is told by their number. */
export function seenPerson<P extends Told>(rights: StaffRights, person: P): P {
  if (seesWhole(rights)) return person
  return {
    ...person,
    name: seesPeople(rights, 'name') ? person.name : person.id,
    email: seesPeople(rights, 'address') ? person.email : '',
    memberships: seesPeople(rights, 'levels') ? person.memberships : [],
    roles: seesPeople(rights, 'roles') ? person.roles : [],
    standing: seesPeople(rights, 'standing') ? person.standing : undefined,
  }
}
