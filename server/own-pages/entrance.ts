/** The way in: signing up, confirming, choosing another password. */
import { sendRedirect } from 'h3'
import type { H3Event } from 'h3'
import { z } from 'zod'
import { db } from '../db/database'
import type { Condition } from '../../core/conditions/condition'
import { formFor } from '../../core/entrance/newcomer'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import { networkOf } from '../forwarded'
import { logFault } from '../log'
import { visitorOver } from '../request/facts'
import { record, tierOf } from '../services/activity/activity'
import { settled } from '../services/facts/settled'
import { landingPlace } from '../services/pages/landing-place'
import { peekLink } from '../services/secrets/one-time-links'
import type { OneTimeLink } from '../services/secrets/one-time-links'
import { askReset, confirmAddress, newcomer, resetPassword, signUp } from '../services/entrance/sign-up'
import {
  askedFacts,
  emailAddress,
  password,
  personName,
  readFacts,
  signUpForm,
} from '../services/entrance/sign-up-form'
import { strangerOf } from '../services/entrance/stranger'
import type { SignUpForm } from '../../core/view/view'
import type { SignUpWorld } from '../services/entrance/sign-up'
import { bringAlong } from './come-in'
import { browserOf, setSessionCookie } from './sign-in-form'
import { weaknessOf } from '../services/secrets/password-strength'
import { countTry } from '../services/secrets/throttle'
import { visitorOf } from '../services/standing/visitor-of'
import { refused } from './own-page'
import { fieldProblems } from './own-words'
import { word } from '../../core/site-words/site-words'
import type { Acted, OwnAsk, OwnPage } from './own-page'
import { wayBack } from '../../core/site/way-back'

const worldOf = ({ caller: { snapshot, nowMs } }: OwnAsk): SignUpWorld => ({
  rules: snapshot.rules,
  settings: snapshot.settings,
  nowMs,
})
/** Whether something is asked of whoever is there: of somebody invited, as who they will be. */
function asksOf({ event, caller: { snapshot, nowMs } }: OwnAsk, invitation: OneTimeLink | undefined) {
  const { rules } = snapshot
  const who = invitation ? newcomer(invitation.data) : { person: null }
  const decider = new CompiledDecider(rules, visitorOver(event, rules.rulebook, who), nowMs)
  return (of: Condition) => decider.admits(of)
}

const hourMs = 3_600_000
/** Mail is sent to whoever a stranger names: both the stranger and the named are spared too much of it. */
const mailLimits = (what: string, email: string, network: string) => [
  { what, of: email, most: 5, windowMs: hourMs },
  { what: `${what}From`, of: network, most: 40, windowMs: hourMs },
]

export interface SignUpData extends SignUpForm {
  invitation: { token: string; email: string } | null
  brokenInvitation: boolean
}

export const signUpPage: OwnPage<SignUpData> = {
  path: '/sign-up',
  async load(ask) {
    const { snapshot } = ask.caller
    if (ask.event.method === 'GET' && !ask.caller.signedIn) noteAtDoor(ask.event, { kind: 'came' })
    const token = ask.query.invitation
    const link = token ? await peekLink(db(), token, 'invite') : undefined
    return {
      ...formFor(signUpForm({ book: snapshot.rules.rulebook, settings: snapshot.settings }), asksOf(ask, link)),
      invitation: link && token ? { token, email: String(link.data.email) } : null,
      brokenInvitation: token !== undefined && !link,
    }
  },
  async act(ask, form) {
    const told = await signUpBy(ask, form)
    // What is asked for and was not given is told by its field; the rest by what it is about.
    if ('problems' in told)
      for (const at of Object.keys(told.problems)) noteAtDoor(ask.event, { kind: 'stopped', detail: { at } })
    return told
  },
}

const cameBy = new WeakSet<H3Event>()
/** Nobody in particular, and not somebody of the staff who tries it; a page that is put together anew is come to once. */
function noteAtDoor(event: H3Event, what: { kind: 'came' | 'stopped'; detail?: Record<string, unknown> }): void {
  if (what.kind === 'came') {
    if (cameBy.has(event)) return
    cameBy.add(event)
  }
  if (!event.context.headOnly && !strangerOf(event)) record({ ...what, personId: null, tier: 'guest' })
}

async function signUpBy(ask: OwnAsk, form: Record<string, string>): Promise<Acted> {
  const world = worldOf(ask)
  const invitation = form.invitation || undefined
  const link = invitation ? await peekLink(db(), invitation, 'invite') : undefined
  const stranger = strangerOf(ask.event)
  if (invitation && !link) return refused({ '': word('wrong.invitation-used') }, form)
  const read = z
    .object({ name: personName, email: emailAddress, password })
    .safeParse({ ...form, ...(link ? { email: String(link.data.email) } : stranger ? { email: stranger.email } : {}) })
  const asks = asksOf(ask, link)
  const asked = askedFacts({ book: world.rules.rulebook, settings: world.settings })
  const facts = readFacts(
    asked.filter(({ of }) => of === undefined || asks(of)),
    form,
  )
  if (!read.success || Object.keys(facts.problems).length)
    return refused({ ...(read.success ? {} : fieldProblems(read.error)), ...facts.problems }, form)
  await countTry(db(), mailLimits('signUp', read.data.email, networkOf(ask.event)), 'sign-ups')
  const weakness = await weaknessOf(read.data.password, [read.data.name, read.data.email])
  if (weakness) return refused({ password: word(`wrong.password-${weakness}`) }, form)
  const { answer, personId } = await signUp(db(), world, {
    ...read.data,
    facts: facts.values,
    ...(invitation ? { invitation } : {}),
  })
  if (personId && !stranger) record({ kind: 'signUp', personId, tier: 'guest' })
  return { to: `/signed-up?then=${answer}` }
}

export const signedUpPage: OwnPage<{ then: string }> = {
  path: '/signed-up',
  load: async ({ query }) => ({
    then: ['look-in-mail', 'waiting', 'can-sign-in'].includes(query.then ?? '') ? query.then! : 'can-sign-in',
  }),
}

export const confirmPage: OwnPage<{ token: string; works: boolean }> = {
  path: '/confirm',
  load: async ({ query }) => ({
    token: query.token ?? '',
    works: (await peekLink(db(), query.token ?? '', 'confirm')) !== undefined,
  }),
  async act(ask, form) {
    const token = form.token ?? ''
    const link = await peekLink(db(), token, 'confirm')
    // Of a link that is none only the network is counted: a stranger must not write a row by every token they make up.
    await countTry(
      db(),
      [
        { what: 'confirmFrom', of: networkOf(ask.event), most: 60, windowMs: hourMs },
        ...(link ? [{ what: 'confirm', of: token, most: 10, windowMs: hourMs }] : []),
      ],
      'tries',
    )
    const world = worldOf(ask)
    const done = await confirmAddress(db(), world, { token, password: form.password ?? '' }, browserOf(ask.event))
    if ('waiting' in done) return { to: '/signed-up?then=waiting' }
    const visitor = await visitorOf(db(), done.personId)
    setSessionCookie(ask.event, done.session, visitor?.person?.email)
    await bringAlong(ask.event, done.personId)
    const decider = new CompiledDecider(
      ask.caller.snapshot.rules,
      visitorOver(ask.event, ask.caller.snapshot.rules.rulebook, visitor ?? { person: null }),
      ask.caller.nowMs,
    )
    if (!strangerOf(ask.event))
      record({ kind: 'signIn', personId: done.personId, tier: tierOf(decider.asker, decider.rules.rulebook) })
    return { to: (await settled(decider, async one => landingPlace(one, 'signUp'))).result }
  },
}

export const forgotPage: OwnPage<{ asked: boolean }> = {
  path: '/forgot',
  load: async ({ query }) => ({ asked: query.asked === 'yes' }),
  async act(ask, form) {
    const email = emailAddress.safeParse(form.email)
    if (!email.success) return refused({ email: word('wrong.email') }, form)
    await countTry(db(), mailLimits('forgot', email.data, networkOf(ask.event)), 'tries')
    // Not awaited: how long it takes would tell whether the address is known.
    void askReset(db(), email.data).catch((error: unknown) => logFault('reset mail', error))
    return { to: '/forgot?asked=yes' }
  },
}

export const resetPage: OwnPage<{ token: string; works: boolean }> = {
  path: '/reset',
  load: async ({ query }) => ({
    token: query.token ?? '',
    works: (await peekLink(db(), query.token ?? '', 'reset')) !== undefined,
  }),
  async act(ask, form) {
    const read = password.safeParse(form.password)
    if (!read.success) return refused({ password: word('wrong.password') }, form)
    await countTry(db(), [{ what: 'resetFrom', of: networkOf(ask.event), most: 60, windowMs: hourMs }], 'tries')
    const token = form.token ?? ''
    const link = await peekLink(db(), token, 'reset')
    const who = link?.personId ? await visitorOf(db(), link.personId) : null
    const weakness = who && (await weaknessOf(read.data, [who.person?.name ?? '', who.person?.email ?? '']))
    if (weakness) return refused({ password: word(`wrong.password-${weakness}`) }, form)
    await resetPassword(db(), worldOf(ask), { token, password: read.data })
    return { to: '/sign-in?done=reset' }
  },
}

/** Sends a stranger to sign in, and back here afterwards. */
export const sendToSignIn = (ask: OwnAsk) => sendRedirect(ask.event, `/sign-in?back=${wayBack(ask.event.path)}`, 303)
