/** A staff rule as a sentence: “Shop hands may look at and change pictures of products made by anyone.” */
import { andWords } from '../sentences/and-words'
import { staffKinds } from './staff-kinds'
import type { StaffAction, StaffKind } from './staff-kinds'
import type { StaffAnswer, StaffRule } from './staff-rule'

const verbs: Record<StaffAction, string> = {
  look: 'look at',
  add: 'add',
  change: 'change',
  withdraw: 'withdraw',
  publish: 'publish',
}

export interface StaffNames {
  role(id: string): string
  audience(id: string): string
}

/** What a rule allows, without who: “look at and change title and pictures of products made by themselves”. */
export function sayStaffRule(rule: StaffRule, names: StaffNames): string {
  const kind: StaffKind = staffKinds[rule.kind]
  const theirs =
    rule.whose === 'me'
      ? ' made by themselves'
      : rule.whose === 'assigned'
        ? ' assigned to them'
        : rule.whose === 'role'
          ? ` made by somebody with the role ${names.role(rule.role)}`
          : rule.whose === 'audience'
            ? ` made by ${names.audience(rule.audience!)}`
            : ''
  const things = kind.many + theirs
  const said = (actions: readonly StaffAction[], what: string) =>
    actions.length ? [`${andWords(actions.map(action => verbs[action]))} ${what}`] : []
  if (!rule.fields) return said(rule.actions, things).join('')
  // Things are withdrawn whole.
  const narrowed = rule.actions.filter(action => action !== 'withdraw')
  const whole = rule.actions.filter(action => action === 'withdraw')
  return [...said(narrowed, `${andWords(rule.fields)} of ${things}`), ...said(whole, things)].join(', and ')
}

/** An answer as a sentence, for Why. `who` begins it, such as “Oona Birk” or “Shop hands”. */
export function sayStaffAnswer(answer: StaffAnswer, who: string, what: string, names: StaffNames): string {
  if (answer.masterKey) return `${who} may ${what}: the master key passes everything.`
  const rules = [...new Set(answer.by.map(rule => `${names.role(rule.role)} may ${sayStaffRule(rule, names)}`))].join(
    '; ',
  )
  if (answer.allowed) return `${who} may ${what}: ${rules}.`
  if (answer.missing === 'whose') return `${who} may not ${what}: it is not theirs. ${rules}.`
  if (answer.missing === 'fields')
    return `${who} may not ${what}: ${andWords(answer.fields ?? [])} ${answer.fields?.length === 1 ? 'is' : 'are'} left out. ${rules}.`
  return `${who} may not ${what}: no sentence says “may ${what}”.`
}
