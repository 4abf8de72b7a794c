/** What a person does with their own account: profile, password, sessions, levels, firm, leaving. */
import { inTransaction } from '../db/turn'
import { levelCalled } from '../../core/rulebook/public-name'
import { eq, sql } from 'drizzle-orm'
import type { Fact } from '../../core/rulebook/people-rules'
import { db } from '../db/database'
import type { Tx } from '../db/database'
import { person } from '../db/schema'
import { Problem } from '../problem'
import { mailWritten, siteAddress, writeMail } from '../services/mail/mail'
import { endFeedAddress, feedTokenOf, renewFeedAddress } from '../services/finding/feed-address'
import { buy, quote, setRenewal } from '../services/memberships/memberships'
import { credentialLinks, dropLinks, makeLink, useLink, peekLink } from '../services/secrets/one-time-links'
import { hashPassword, passwordFits } from '../services/secrets/passwords'
import { changePerson, refuseTaken, removePerson } from '../services/people/people'
import { saleWorld } from '../services/memberships/payments'
import { endSessions, startSession } from '../services/entrance/sessions'
import { clockDate } from '../clock'
import { adoptOrders } from '../services/orders/settle'
import { emailAddress, firmFactsAsked, password, personName, readFacts } from '../services/entrance/sign-up-form'
import { setSessionCookie, browserOf } from './sign-in-form'
import { revokeFirmInvitation } from '../services/people/invitations'
import { inviteToFirm, joinFirm, leaveFirm, sayOfOwnFirm } from '../services/people/firms'
import { leaveTrace } from '../trace'
import { weaknessOf } from '../services/secrets/password-strength'
import { countTry } from '../services/secrets/throttle'
import { refused } from './own-page'
import { word } from '../../core/site-words/site-words'
import type { Word } from '../../core/site-words/site-words'
import type { OwnAsk, OwnPage } from './own-page'

const me = ({ caller: { signedIn } }: OwnAsk) => {
  if (!signedIn) throw new Problem('sign-in-needed')
  return {
    id: signedIn.personId,
    name: signedIn.visitor.person?.name ?? '',
    email: signedIn.visitor.person?.email ?? '',
    sessionId: signedIn.sessionId,
  }
}

async function checkPassword(personId: string, given: string): Promise<boolean> {
  await countTry(db(), [{ what: 'ownPassword', of: personId, most: 10, windowMs: 600_000 }], 'tries')
  const [row] = await db().select({ hash: person.passwordHash }).from(person).where(eq(person.id, personId))
  return passwordFits(given, row?.hash)
}

export interface ProfileData {
  name: string
  email: string
  facts: { id: string; name: string; type: Fact['type']; choices: string[]; value: string }[]
  done: string
  /** No mailed link has shown yet that the address is theirs, and one can be sent. */ unproven: boolean
  /** The private address of their feed, where they have made one. */ feed: string | null
}

/** Facts a person may state about themselves: those sign-up asks for. */
const ownFacts = ({ caller: { snapshot } }: OwnAsk): Fact[] => {
  const asked = snapshot.settings['sign-up'].facts.map(one => one.fact)
  return (snapshot.rules.rulebook.facts ?? []).filter(fact => asked.includes(fact.id) && !fact.from)
}

export const profilePage: OwnPage<ProfileData> = {
  path: '/account/profile',
  signedIn: true,
  async load(ask) {
    const { name, email } = me(ask)
    const held = ask.caller.signedIn?.visitor.facts ?? {}
    const facts = ownFacts(ask).map(fact => ({
      id: fact.id,
      name: fact.name ?? fact.id,
      type: fact.type,
      choices: fact.choices ?? [],
      value: fact.type === 'flag' ? (held[fact.id] === true ? 'on' : '') : String(held[fact.id] ?? ''),
    }))
    const token = await feedTokenOf(db(), me(ask).id)
    const feed = token === undefined ? null : `${siteAddress()}/feed/own/${token}`
    const unproven = ask.caller.snapshot.settings.mailWorks && !(await isProven(me(ask).id))
    return { name, email, facts, done: ask.query.done ?? '', unproven, feed }
  },
  async act(ask, form) {
    const who = me(ask)
    if (form.what === 'password') return changePassword(ask, form)
    if (form.what === 'address') return changeAddress(ask, form)
    if (form.what === 'prove') return proveAddress(ask)
    if (form.what === 'feed' || form.what === 'feed-end') {
      await (form.what === 'feed' ? renewFeedAddress : endFeedAddress)(db(), who)
      return { to: `/account/profile?done=${form.what}` }
    }
    const read = personName.safeParse(form.name)
    const facts = readFacts(ownFacts(ask), form)
    if (!read.success || Object.keys(facts.problems).length)
      return refused({ ...(read.success ? {} : { name: word('wrong.name') }), ...facts.problems }, form)
    // What the form asked for and did not get is taken away; facts it does not ask for stay.
    const none = Object.fromEntries(ownFacts(ask).map(fact => [fact.id, null]))
    await changePerson(db(), who.id, { name: read.data, facts: { ...none, ...facts.values } }, who)
    return { to: '/account/profile?done=profile' }
  },
}

async function changePassword(ask: OwnAsk, form: Record<string, string>) {
  const who = me(ask)
  const read = password.safeParse(form.password)
  if (!read.success) return refused({ password: word('wrong.password') }, form)
  if (!(await checkPassword(who.id, form.oldPassword ?? '')))
    return refused({ oldPassword: word('wrong.old-password') }, form)
  const weakness = await weaknessOf(read.data, [who.name, who.email])
  if (weakness) return refused({ password: word(`wrong.password-${weakness}`) }, form)
  const passwordHash = await hashPassword(read.data)
  const [token, mail] = await inTransaction(db(), async tx => {
    await tx.update(person).set({ passwordHash }).where(eq(person.id, who.id))
    await endSessions(tx, who.id, { allBut: null })
    await dropLinks(tx, who.id, credentialLinks)
    await leaveTrace(tx, who, 'person.change-password', `person ${who.id}`)
    return [
      await startSession(tx, who.id, browserOf(ask.event)),
      await writeMail(tx, {
        text: 'password-changed',
        to: who.email,
        values: { name: who.name, link: `${siteAddress()}/forgot` },
      }),
    ] as const
  })
  await mailWritten(mail)
  setSessionCookie(ask.event, token, who.email)
  return { to: '/account/profile?done=password' }
}

async function changeAddress(ask: OwnAsk, form: Record<string, string>) {
  const who = me(ask)
  const read = emailAddress.safeParse(form.email)
  if (!read.success) return refused({ email: word('wrong.email') }, form)
  await countTry(db(), [{ what: 'address', of: who.id, most: 5, windowMs: 3_600_000 }], 'changes')
  if (!(await checkPassword(who.id, form.oldPassword ?? '')))
    return refused({ addressPassword: word('wrong.old-password') }, form)
  const [known] = await db()
    .select({ id: person.id, name: person.name })
    .from(person)
    .where(sql`lower(${person.email}) = ${read.data.toLowerCase()}`)
  // Whether the address is somebody else's is told to its owner only.
  const id = await inTransaction(db(), async tx =>
    known && known.id !== who.id
      ? writeMail(tx, {
          text: 'known-address',
          to: read.data,
          values: { name: known.name, link: `${siteAddress()}/forgot` },
        })
      : addressMail(tx, who, read.data),
  )
  await mailWritten(id)
  return { to: '/account/profile?done=address' }
}

async function isProven(id: string): Promise<boolean> {
  const [row] = await db().select({ provenAt: person.provenAt }).from(person).where(eq(person.id, id))
  return row?.provenAt != null
}

/** Of the address they sign in with. It takes no password: the link takes whoever reads the mail and is signed in. */
async function proveAddress(ask: OwnAsk) {
  const who = me(ask)
  await countTry(db(), [{ what: 'address', of: who.id, most: 5, windowMs: 3_600_000 }], 'changes')
  await mailWritten(await inTransaction(db(), tx => addressMail(tx, who, who.email)))
  return { to: '/account/profile?done=prove' }
}

/** With the link by which an address is taken, and proven to be theirs. */
const addressMail = async (tx: Tx, who: { id: string; name: string }, email: string) =>
  writeMail(tx, {
    text: 'address',
    to: email,
    values: {
      name: who.name,
      link: `${siteAddress()}/account/address?token=${await makeLink(tx, { purpose: 'address', personId: who.id, data: { email } })}`,
    },
  })

export const addressPage: OwnPage<{ token: string; email: string | null }> = {
  path: '/account/address',
  signedIn: true,
  async load(ask) {
    const link = await peekLink(db(), ask.query.token ?? '', 'address')
    return { token: ask.query.token ?? '', email: link?.personId === me(ask).id ? String(link.data.email) : null }
  },
  async act(ask, form) {
    const who = me(ask)
    await inTransaction(db(), async tx => {
      const link = await useLink(tx, form.token ?? '', 'address')
      if (link.personId !== who.id) throw new Problem('bad-token')
      await refuseTaken(tx, String(link.data.email), who.id)
      await tx
        .update(person)
        .set({ email: String(link.data.email), provenAt: clockDate() })
        .where(eq(person.id, who.id))
      await adoptOrders(tx, who)
      await dropLinks(tx, who.id, credentialLinks)
      await leaveTrace(tx, who, 'person.change-address', `person ${who.id}`)
    })
    return { to: '/account/profile?done=new-address' }
  },
}

/** A row's number in a form; 0, which no row has, for anything else. */
const rowNumber = (text = '') => (/^\d{1,9}$/.test(text) ? Number(text) : 0)

/** Buttons of the member's home that need no page of their own. */
export const accountDeeds: OwnPage<{ back: string }> = {
  path: '/account/do',
  signedIn: true,
  load: async () => ({ back: '/account' }),
  async act(ask, form) {
    const who = me(ask)
    const world = saleWorld(ask.caller.snapshot)
    if (form.what === 'end-session') await endSessions(db(), who.id, { id: form.session ?? '' })
    else if (form.what === 'end-others') await endSessions(db(), who.id, { allBut: who.sessionId })
    else if (form.what === 'stop-renewal' || form.what === 'renew')
      await setRenewal(db(), world, who, rowNumber(form.membership), form.what === 'renew')
    else if (form.what === 'firm-invite') {
      const email = emailAddress.safeParse(form.email)
      if (!email.success) return refused({ '': word('wrong.email') }, form)
      await countTry(db(), [{ what: 'firmInvite', of: who.id, most: 20, windowMs: 3_600_000 }], 'invitations')
      await inviteToFirm(db(), who, email.data)
    } else if (form.what === 'firm-facts') {
      const asked = firmFactsAsked({ book: ask.caller.snapshot.rules.rulebook, settings: ask.caller.snapshot.settings })
      const { values, problems } = readFacts(
        asked.map(one => ({ ...one, required: false })),
        form,
      )
      const [problem] = Object.values(problems)
      if (problem) return refused({ '': problem }, form)
      const said = asked.map(({ id }) => [id, id in values ? String(values[id]) : null] as const)
      await sayOfOwnFirm(db(), who, Object.fromEntries(said))
    } else if (form.what === 'firm-revoke') await revokeFirmInvitation(db(), who, form.invitation ?? '')
    else if (form.what === 'firm-remove') await leaveFirm(db(), who, form.person ?? '')
    else return refused({ '': word('wrong.not-here') }, form)
    return { to: `/account?done=${form.what}` }
  },
}

export interface BuyData {
  levels: { id: string; name: string; note: string; price: number; every: 'month' | 'year' | 'once' }[]
  chosen: {
    id: string
    name: string
    sort: string
    price: number
    credit: number
    amount: number
    startsAt: string
    endsAt: string | null
  } | null
  refusal: Word | null
  currency: string
  timezone: string
  locale: string
}

export const buyPage: OwnPage<BuyData> = {
  path: '/account/buy',
  signedIn: true,
  async load(ask) {
    const { snapshot } = ask.caller
    const { site } = snapshot.rules.index
    const levels = [...(snapshot.rules.rulebook.levels ?? [])]
      .sort((a, b) => a.rank - b.rank)
      .flatMap(level =>
        level.price
          ? [
              {
                id: level.id,
                name: levelCalled(level),
                note: level.note ?? '',
                price: level.price.amount,
                every: level.price.every,
              },
            ]
          : [],
      )
    const wanted = levels.find(level => level.id === ask.query.level)
    const asked = wanted ? await quote(db(), saleWorld(snapshot), me(ask).id, wanted.id) : null
    const chosen =
      wanted && asked && typeof asked === 'object'
        ? {
            id: wanted.id,
            name: wanted.name,
            ...asked,
            startsAt: new Date(asked.startsAt).toISOString(),
            endsAt: asked.endsAt === null ? null : new Date(asked.endsAt).toISOString(),
          }
        : null
    const refusal =
      ask.query.level && !chosen
        ? asked === 'held-for-good'
          ? word('wrong.held-for-good')
          : word('wrong.level-not-sold')
        : null
    return { levels, chosen, refusal, currency: site.currency, timezone: site.timezone, locale: site.locale ?? 'en' }
  },
  async act(ask, form) {
    const done = await buy(db(), saleWorld(ask.caller.snapshot), me(ask), form.level ?? '', Number(form.amount))
    return { to: 'booked' in done ? '/account?done=booked' : `/pay/${done.reference}` }
  },
}

export const leavePage: OwnPage = {
  path: '/account/leave',
  signedIn: true,
  load: async () => ({}),
  async act(ask, form) {
    const who = me(ask)
    if (!(await checkPassword(who.id, form.oldPassword ?? '')))
      return refused({ oldPassword: word('wrong.old-password') }, form)
    await removePerson(db(), who.id, who)
    return { to: '/?left=yes' }
  },
}

export const joinFirmPage: OwnPage<{ token: string; firm: string | null }> = {
  path: '/join-firm',
  signedIn: true,
  async load(ask) {
    const link = await peekLink(db(), ask.query.token ?? '', 'firm-invite')
    return {
      token: ask.query.token ?? '',
      firm: link ? (ask.caller.snapshot.firms.find(one => one.id === link.data.firm)?.name ?? null) : null,
    }
  },
  async act(ask, form) {
    await joinFirm(db(), me(ask), form.token ?? '')
    return { to: '/account?done=firm-joined' }
  },
}
