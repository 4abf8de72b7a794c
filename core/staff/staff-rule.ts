/** What one staff role may do to one kind of thing. Rules only add; whatever no rule grants is refused. */
import { z } from 'zod'
import { idPattern, report } from '../shapes'
import { staffActions, staffKindIds, staffKinds } from './staff-kinds'
import type { StaffAction, StaffKind, StaffKindId } from './staff-kinds'

/**
 * Whose things: everybody's, those made by oneself, those assigned to oneself, those made by somebody who holds
 * the role the sentence is about, or those made by people of an audience.
 */
const whoseOf = ['anyone', 'me', 'assigned', 'role', 'audience'] as const

export const staffRule = z
  .strictObject({
    role: z.string().regex(idPattern, 'The id of a role is expected.'),
    kind: z.enum(staffKindIds as [StaffKindId, ...StaffKindId[]]),
    actions: z.array(z.enum(staffActions)).min(1, 'At least one action.'),
    /** Only these fields are looked at, filled in, changed and published; left out, all of them. */
    fields: z.array(z.string()).min(1, 'At least one field, or none named at all.').optional(),
    whose: z.enum(whoseOf).default('anyone'),
    audience: z.string().optional(),
  })
  .check(sink => {
    const { kind, actions, fields, whose, audience } = sink.value
    const known: StaffKind | undefined = staffKinds[kind]
    if (!known) return
    actions.forEach((action, i) => {
      if (!known.actions.includes(action))
        report(sink, 'not-a-choice', ['actions', i], `${known.many} know ${known.actions.join(', ')}.`)
    })
    fields?.forEach((field, i) => {
      if (!known.fields?.includes(field))
        report(
          sink,
          'not-a-choice',
          ['fields', i],
          known.fields
            ? `Fields of ${known.many}: ${known.fields.join(', ')}.`
            : `${known.many} have no fields to narrow by.`,
        )
    })
    if (whose !== 'anyone' && !known.owned)
      report(sink, 'not-a-choice', ['whose'], `${known.many} are made by nobody in particular.`)
    if ((whose === 'audience') !== (audience !== undefined))
      report(sink, 'missing-key', ['audience'], 'An audience is named exactly where things are made by one.')
  })
export type StaffRule = z.infer<typeof staffRule>
export type StaffRuleInput = z.input<typeof staffRule>

/** A thing that is worked on: who made it, whom it is assigned to. */
export interface OwnedThing {
  madeBy: string | null
  assignedTo: string | null
}

/** Everything that bears on what one person of the staff may do. */
export interface StaffRights {
  personId: string
  masterKey: boolean
  /** The rules of all their staff roles together. */
  rules: readonly StaffRule[]
}

export interface StaffAsk {
  kind: StaffKindId
  action: StaffAction
  /** Fields it touches; left out, the question is whether any field may be. */
  fields?: readonly string[]
  /** Left out, the question is whether it may be done to some thing of the kind. */
  thing?: OwnedThing
  /** Whoever made the thing. Default: nobody in particular. */
  maker?: Maker
}

/** What staff rules ask about whoever made a thing. */
export interface Maker {
  isIn(audience: string): boolean
  holds(role: string): boolean
}

export interface StaffAnswer {
  allowed: boolean
  /** The rules that granted it, or came near: same kind and action. */
  by: StaffRule[]
  masterKey?: true
  /** Why not: no rule names it, a field is left out, or it is not theirs. */
  missing?: 'action' | 'fields' | 'whose'
  fields?: string[]
}

const actionOf = (rule: StaffRule, { kind, action }: StaffAsk) => rule.kind === kind && rule.actions.includes(action)

function isTheirs(rule: StaffRule, personId: string, { thing, maker }: StaffAsk): boolean {
  if (rule.whose === 'anyone' || !thing) return true
  if (rule.whose === 'me') return thing.madeBy === personId
  if (rule.whose === 'assigned') return thing.assignedTo === personId
  if (thing.madeBy === null || !maker) return false
  return rule.whose === 'role' ? maker.holds(rule.role) : maker.isIn(rule.audience!)
}

/** May this be done? The master key may do everything; several rules may each cover a part of the fields. */
export function mayStaff(rights: StaffRights, ask: StaffAsk): StaffAnswer {
  const named = rights.rules.filter(rule => actionOf(rule, ask))
  if (rights.masterKey) return { allowed: true, by: named, masterKey: true }
  if (!named.length) return { allowed: false, by: [], missing: 'action' }
  const theirs = named.filter(rule => isTheirs(rule, rights.personId, ask))
  if (!theirs.length) return { allowed: false, by: named, missing: 'whose' }
  const covered = (field: string) => theirs.some(rule => !rule.fields || rule.fields.includes(field))
  const left = (ask.fields ?? []).filter(field => !covered(field))
  return left.length ? { allowed: false, by: theirs, missing: 'fields', fields: left } : { allowed: true, by: theirs }
}

/**
 * Whether `rights` hold all a rule would give: nobody hands out more than they
 * have. Narrowed rights cover only what is narrowed alike.
 */
export function coversRule(rights: StaffRights, rule: StaffRule): boolean {
  if (rights.masterKey) return true
  const fields: readonly string[] = rule.fields ?? (staffKinds[rule.kind] as StaffKind).fields ?? []
  const alike = rights.rules.filter(
    one =>
      one.kind === rule.kind &&
      (one.whose === 'anyone' ||
        (one.whose === rule.whose &&
          one.audience === rule.audience &&
          (one.whose !== 'role' || one.role === rule.role))),
  )
  return rule.actions.every(action => {
    const granting = alike.filter(one => one.actions.includes(action))
    return (
      granting.some(one => !one.fields) ||
      (fields.length > 0 &&
        granting.length > 0 &&
        fields.every(field => granting.some(one => one.fields?.includes(field))))
    )
  })
}
