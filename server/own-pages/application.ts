/** Asking for a level or role. */
import { db } from '../db/database'
import { staffKinds } from '../../core/staff/staff-kinds'
import type { StaffKind } from '../../core/staff/staff-kinds'
import { Problem } from '../problem'
import { openForm, openForms } from '../services/forms/forms'
import { apply } from '../services/people/applications'
import type { Target } from '../services/forms/forms'
import { isStaff } from '../services/staff/authorise'
import type { OwnAsk, OwnPage } from './own-page'

export interface ApplyData {
  target: string
  name: string
  intro: string
  questions: string[]
  open: { target: string; path: string; name: string; staff: boolean; kinds: string[] }[]
}

const targetIn = (rest: string[]) => rest.slice(0, 2).join(' ')
/** Staff roles show to the staff alone, who know them by their own names. */
const nameFor = (about: Target) => (about.staff ? about.name : about.called)
/** Kinds of part are told together. */
const kindCalled = ({ many, within }: StaffKind) => within ?? many
const staffOf = (ask: OwnAsk) => isStaff(ask.caller.decider)

/** `/apply/role/stockist`; without a target, what can be asked for. */
export const applyPage: OwnPage<ApplyData> = {
  path: '/apply',
  signedIn: true,
  async load(ask) {
    const { rulebook } = ask.caller.snapshot.rules
    const open = (await openForms(db(), rulebook, staffOf(ask))).map(({ target, about }) => ({
      target,
      path: `/apply/${target.replace(' ', '/')}`,
      name: nameFor(about),
      staff: about.staff,
      kinds: [
        ...new Set(
          ask.caller.snapshot.staffRules
            .filter(rule => about.staff && rule.role === about.id)
            .map(rule => kindCalled(staffKinds[rule.kind])),
        ),
      ],
    }))
    if (!ask.rest.length) return { target: '', name: '', intro: '', questions: [], open }
    const { target, intro, questions, about } = await openForm(db(), rulebook, targetIn(ask.rest), staffOf(ask))
    return { target, name: nameFor(about), intro, questions, open }
  },
  async act(ask, form) {
    const { signedIn, snapshot } = ask.caller
    if (!signedIn) throw new Problem('sign-in-needed')
    const answers = Object.keys(form)
      .filter(key => key.startsWith('answer-'))
      .sort((a, b) => Number(a.slice(7)) - Number(b.slice(7)))
      .map(key => form[key]!.slice(0, 5000))
    await apply(
      db(),
      snapshot.rules.rulebook,
      { target: targetIn(ask.rest), answers, isStaff: staffOf(ask) },
      { id: signedIn.personId, name: signedIn.visitor.person?.name ?? '' },
    )
    return { to: '/account?done=applied' }
  },
}
