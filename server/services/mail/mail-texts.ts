/** The texts of the mails Bravik sends: as it brings them, and as the operator changed them. */
import { inTransaction } from '../../db/turn'
import { eq } from 'drizzle-orm'
import { z } from 'zod'
import type { AnyDb } from '../../db/database'
import { mailText } from '../../db/schema'
import { linkPurposes } from '../secrets/one-time-links'
import { cleanHtml, htmlProblem, linkStandsAlone, linkValue } from './mail-html'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'

export interface MailText {
  subject: string
  plain: string
  html: string
}

const text = (
  about: string,
  values: readonly string[],
  subject: string,
  paragraphs: string[],
  button?: [label: string, value: string],
) => ({
  about,
  values: ['site', 'name', ...values],
  text: {
    subject,
    plain: [...paragraphs, ...(button ? [`${button[0]}:\n{${button[1]}}`] : []), '{site}'].join('\n\n'),
    html: [
      ...paragraphs.map(one => `<p>${one}</p>`),
      ...(button ? [`<p><a href="{${button[1]}}">${button[0]}</a></p>`] : []),
      '<p>{site}</p>',
    ].join('\n'),
  } satisfies MailText,
})

/** Mails whose link or code lets their reader in, with the hours it is of use: nobody rewrites them who could not let themselves in anyhow. */
const withToken = {
  confirm: linkPurposes.confirm,
  'known-address': linkPurposes.reset,
  invite: linkPurposes.invite,
  reset: linkPurposes.reset,
  address: linkPurposes.address,
  'firm-invite': linkPurposes['firm-invite'],
  check: 1,
} as const
const hoursByText: Partial<Record<string, number>> = withToken

export const carriesToken = (key: MailTextKey): boolean => key in withToken
/** Hours after which what a mail says is of no use; undefined where it always is. */
export const hoursOfUse = (key: MailTextKey): number | undefined => hoursByText[key]
/** Somebody sits there and waits for it. */
export const isUrgent = carriesToken

/** What each mail is for, what it may name in `{…}`, and how it reads unless changed. */
export const mailTexts = {
  'order-paid': text(
    'Thanks a buyer, once an order is paid.',
    ['number', 'amount', 'invoice', 'link'],
    'Your order {number}',
    ['Hello {name},', 'thank you: order {number} is paid, {amount} in all. Its invoice is number {invoice}.'],
    ['Look at the order', 'link'],
  ),
  'order-sent': text(
    'Tells a buyer that an order is on its way.',
    ['number', 'way', 'link'],
    'Order {number} is on its way',
    ['Hello {name},', 'order {number} left us today. {way}'],
    ['Look at the order', 'link'],
  ),
  'order-refunded': text(
    'Tells a buyer that money was given back.',
    ['number', 'amount', 'invoice', 'link'],
    'Money back for order {number}',
    ['Hello {name},', 'we gave back {amount} of order {number}. The credit note is number {invoice}.'],
    ['Look at the order', 'link'],
  ),
  gift: text(
    'Brings somebody what was bought for them.',
    ['from', 'what', 'link'],
    'Something for you from {from}',
    ['Hello,', '{from} gives you: {what}. Sign in, or make an account, to take it.'],
    ['Take it', 'link'],
  ),
  confirm: text(
    'Asks a new person to confirm their address.',
    ['link'],
    'Is this your address?',
    [
      'Hello {name},',
      'you signed up with this address. Confirm it within two days, with the password you chose. If it was not you, do nothing: the sign-up is forgotten.',
    ],
    ['Confirm the address', 'link'],
  ),
  'known-address': text(
    'Tells the owner of a known address that somebody signed up with it.',
    ['link'],
    'You have an account already',
    [
      'Hello {name},',
      'somebody, perhaps you, signed up with your address. You have an account already, and nothing was changed. If you forgot the password, choose another.',
    ],
    ['Choose another password', 'link'],
  ),
  'planned-refused': text(
    'Tells whoever planned an edition that it was not published.',
    ['note', 'problem'],
    'A planned edition was not published',
    [
      'Hello {name},',
      'the edition you planned ({note}) no longer fits, so nothing was published: {problem}',
      'It still stands in the draft: look at it under Editions.',
    ],
  ),
  waiting: text('Tells a person that the staff looks at their sign-up.', [], 'We will look at it', [
    'Hello {name},',
    'thank you. One of us looks at each sign-up by hand; you hear from us as soon as you can sign in.',
  ]),
  welcome: text(
    'Tells a person that they can sign in.',
    ['link'],
    'Come in',
    ['Hello {name},', 'you can sign in now.'],
    ['Sign in', 'link'],
  ),
  declined: text('Tells a person that their sign-up was declined.', ['words'], 'Your sign-up', [
    'Hello {name},',
    'we did not take up your sign-up. {words}',
  ]),
  invite: text(
    'Invites somebody to sign up.',
    ['link', 'by'],
    'An invitation',
    ['Hello,', '{by} invites you to {site}. The invitation holds for two weeks.'],
    ['Sign up', 'link'],
  ),
  reset: text(
    'Lets a person choose another password.',
    ['link'],
    'Another password',
    [
      'Hello {name},',
      'choose another password within two hours. If you did not ask for this, do nothing: the old one still holds.',
    ],
    ['Choose another password', 'link'],
  ),
  'password-changed': text(
    'Tells a person that their password was changed.',
    ['link'],
    'Your password was changed',
    [
      'Hello {name},',
      'your password was changed, and every other browser was signed out. If it was not you, choose another at once.',
    ],
    ['Choose another password', 'link'],
  ),
  address: text(
    'Asks a person to confirm a new address.',
    ['link'],
    'Is this your new address?',
    ['Hello {name},', 'from now on you want to sign in with this address. Confirm it within a day.'],
    ['Take this address', 'link'],
  ),
  'firm-invite': text(
    'Invites somebody to a firm.',
    ['link', 'by', 'firm'],
    'Join {firm}',
    ['Hello,', '{by} invites you to buy together as {firm}. The invitation holds for two weeks.'],
    ['Join {firm}', 'link'],
  ),
  'application-accepted': text(
    'Tells a person that their application was accepted.',
    ['what', 'words', 'link'],
    '{what}: yes',
    ['Hello {name},', 'you asked for {what}, and it is yours now. {words}'],
    ['Your account', 'link'],
  ),
  'application-declined': text('Tells a person that their application was declined.', ['what', 'words'], '{what}', [
    'Hello {name},',
    'you asked for {what}. We decided not to give it this time. {words}',
  ]),
  'payment-declined': text(
    'Tells a person that a renewal could not be paid.',
    ['what', 'until', 'link'],
    '{what} could not be renewed',
    [
      'Hello {name},',
      'the payment for {what} did not go through. You keep it until {until}; pay before then to go on.',
    ],
    ['Pay now', 'link'],
  ),
  check: text('Checks that mail arrives.', ['code'], 'Does mail work?', [
    'The code is {code}. Type it where you asked for this mail.',
  ]),
} as const
export type MailTextKey = keyof typeof mailTexts
export const mailTextKeys = Object.keys(mailTexts) as MailTextKey[]

const placeholders = (words: string) => [...words.matchAll(/\{([a-z]+)\}/g)].map(found => found[1]!)

/** A changed text; placeholders the mail does not know are refused where they stand. */
export function mailTextInput(key: MailTextKey) {
  const known: readonly string[] = mailTexts[key].values
  const words = (most: number) =>
    z
      .string()
      .min(1, 'Something must be said.')
      .max(most)
      .superRefine((value, context) => {
        for (const name of placeholders(value))
          if (!known.includes(name))
            context.addIssue({
              code: 'custom',
              message: `{${name}} is not known here. Known: ${known.map(one => `{${one}}`).join(' ')}.`,
            })
      })
  return z.strictObject({
    subject: words(300)
      .refine(value => !/[\r\n]/.test(value), 'A subject is one line.')
      .refine(value => !value.includes(`{${linkValue}}`), 'The link stands in the text, not in the subject.'),
    plain: words(20_000).refine(linkStandsAlone, `{${linkValue}} stands on a line of its own.`),
    html: words(50_000).superRefine((value, context) => {
      const problem = htmlProblem(value)
      if (problem) context.addIssue({ code: 'custom', message: problem })
    }),
  })
}

/** The text as it is sent. One an older version kept that would not be taken now counts as none: the mail goes out as Bravik brings it. */
export async function textFor(tx: AnyDb, key: MailTextKey): Promise<MailText> {
  const own = mailTextInput(key).safeParse(await ownText(tx, key))
  return own.success ? { ...own.data, html: cleanHtml(own.data.html) } : mailTexts[key].text
}

async function ownText(tx: AnyDb, key: MailTextKey): Promise<MailText | undefined> {
  return (
    await tx
      .select({ subject: mailText.subject, plain: mailText.plain, html: mailText.html })
      .from(mailText)
      .where(eq(mailText.key, key))
  )[0]
}

const escapes: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' }
const escaped = (value: string) => value.replaceAll(/[&<>"']/g, char => escapes[char]!)

/** Fills the placeholders; values go into HTML escaped, and a subject stays one line. */
export function filledText(text: MailText, values: Record<string, string>): MailText {
  const fill = (words: string, treat: (value: string) => string) =>
    words.replaceAll(/\{([a-z]+)\}/g, (_, name: string) => treat(values[name] ?? ''))
  return {
    subject: fill(text.subject, value => value.replaceAll(/[\r\n]+/g, ' ')),
    plain: fill(text.plain, value => value),
    html: fill(text.html, escaped),
  }
}

/** Every text as it is now, with what it is for and what it may name. */
export async function listTexts(tx: AnyDb) {
  const changed = new Map((await tx.select().from(mailText)).map(row => [row.key, row]))
  return mailTextKeys.map(key => {
    const own = changed.get(key)
    const { about, values, text } = mailTexts[key]
    return {
      key,
      about,
      values,
      token: carriesToken(key),
      changed: own !== undefined,
      subject: own?.subject ?? text.subject,
      plain: own?.plain ?? text.plain,
      html: own?.html ?? text.html,
      original: text,
    }
  })
}

export async function saveText(db: AnyDb, key: MailTextKey, text: MailText, actor: Actor): Promise<void> {
  await inTransaction(db, async tx => {
    const values = { ...text, changedBy: actor.name, changedAt: new Date() }
    await tx
      .insert(mailText)
      .values({ key, ...values })
      .onConflictDoUpdate({ target: mailText.key, set: values })
    await leaveTrace(tx, actor, 'mail.text', `mail text ${key}`)
  })
}
