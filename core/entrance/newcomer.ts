/** What is asked of somebody new, and whether anybody looks at them before they are let in. */
import type { Condition } from '../conditions/condition'
import type { FactGroup } from '../visitor/fact-group'
import type { SignUpForm } from '../view/view'

/** The form as it is for one visitor: what is asked of others only is left out, and of whom is told to nobody. */
export function formFor(form: SignUpForm, admits: (of: Condition) => boolean): SignUpForm {
  if (!form.facts.some(one => one.of)) return form
  return {
    ...form,
    facts: form.facts.flatMap(({ of, ...one }) => (of === undefined || admits(of) ? [one] : [])),
  }
}

export interface LooksAt {
  /** At everybody. */ approveByHand: boolean
  /** At those of whom this is true. */ lookAt: Condition | null
}

/** Whether somebody new waits until the staff has looked at them. What is not known of them is a reason to look. */
export const waitsForStaff = ({ approveByHand, lookAt }: LooksAt, admits: (condition: Condition) => boolean): boolean =>
  approveByHand || (lookAt !== null && !admits({ not: lookAt }))

/** Of what may be asked in a sentence about whom something is asked of: not what is gone once the form is sent. */
export const goneWithTheForm: ReadonlySet<FactGroup> = new Set(['query', 'referrer'])
/** What is known of somebody new while nobody sees their browser. */
export const knownOfNewcomers: ReadonlySet<FactGroup> = new Set(['person', 'clock'])
