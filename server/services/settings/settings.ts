/** Settings outside the rules, by group, each with its defaults. */
import { eq } from 'drizzle-orm'
import { z } from 'zod'
import { sellerSaid } from '../../../core/orders/seller'
import { condition } from '../../../core/conditions/condition'
import { blockKinds } from '../../../core/blocks/blocks'
import { fileTypeNames } from '../../../core/files/stored-file'
import { siteLook } from '../../../core/site/look'
import { differsBySignIn, isLanguageTag, isWordKey, wordProblem } from '../../../core/site-words/site-words'
import type { Said } from '../../../core/site-words/site-words'
import type { WordKey } from '../../../core/site-words/english'
import { hostAndPort } from '../../../core/shapes'
import type { AnyDb, Tx } from '../../db/database'
import { isMailChecked, mailCheckGroup } from '../../mail-server'
import { setting } from '../../db/schema'

const id = z.string().min(1)
const perDay = z.int().min(1, 'At least one file a day: a gate keeps all of them.').max(100_000)

const known = (list: readonly string[], word: string) => z.string().refine(value => list.includes(value), word)

/** Kept beside the edition, in the row of the site; shown and changed as settings. */
export const siteIdentity = z.strictObject({
  name: z.string().trim().min(1, 'The site has a name.').max(200),
  timezone: z.string().max(60).refine(isTimezone, 'A time zone such as Europe/Dublin is expected.'),
  currency: known(Intl.supportedValuesOf('currency'), 'A currency such as EUR is expected (ISO 4217).'),
  locale: z.string().max(35).refine(isLocale, 'A language such as en or en-IE is expected (BCP 47).'),
})
export type SiteIdentity = z.infer<typeof siteIdentity>

function isTimezone(value: string): boolean {
  try {
    return Boolean(new Intl.DateTimeFormat('en', { timeZone: value }))
  } catch {
    return false
  }
}

function isLocale(value: string): boolean {
  try {
    return Intl.getCanonicalLocales(value)[0] === value
  } catch {
    return false
  }
}

const saidText = z.string().max(2000)
/** What is said in place of usual words, by key; `null` takes it back. What does not fit is told at its key. */
export const saidWords = z
  .record(
    z.string().max(60),
    z.union([saidText, z.strictObject({ guest: saidText.optional(), member: saidText.optional() })]),
  )
  .superRefine((words, context) => {
    for (const [key, said] of Object.entries(words)) {
      const told = (message: string, ...path: string[]) =>
        context.addIssue({ code: 'custom', path: [key, ...path], message })
      if (!isWordKey(key)) told('The public pages say nothing of this name.')
      else if (typeof said === 'string') saidProblems(key, { '': said }).forEach(([, message]) => told(message))
      else if (!differsBySignIn(key)) told('This is said to everybody alike.')
      else saidProblems(key, said).forEach(([state, message]) => told(message, state))
    }
  })
  .transform(words => words as Partial<Record<WordKey, Said>>)
const saidProblems = (key: WordKey, texts: Record<string, string | undefined>) =>
  Object.entries(texts).flatMap(([state, text]): [string, string][] => {
    const problem = text === undefined ? null : wordProblem(key, text)
    return problem ? [[state, problem]] : []
  })

/** As it was kept: a word that nobody knows any more says nothing. */
const anySaid = z.union([z.string(), z.object({ guest: z.string().optional(), member: z.string().optional() })])

export const settingGroups = {
  'sign-up': z.strictObject({
    mode: z.enum(['open', 'invitation', 'closed']).default('open'),
    /** The address is confirmed by a link before anything else. Null: as soon as mail works. */
    confirmByMail: z.boolean().nullable().default(null),
    /** Somebody of the staff looks at each sign-up. */
    approveByHand: z.boolean().default(false),
    /** Null: levels the rules give on sign-up. */
    startLevel: id.nullable().default(null),
    startRoles: z.array(id).default([]),
    /** Those of whom this is true, or not known to be false, are looked at too. */
    lookAt: condition.nullable().default(null),
    /** Profile facts asked for, in order; `of`: of whom. Default: everybody. */
    facts: z
      .array(z.strictObject({ fact: id, required: z.boolean(), of: condition.optional() }))
      .max(40, 'At most 40 things are asked.')
      .default([]),
  }),
  mail: z.strictObject({
    senderName: z.string().max(200).default(''),
    senderAddress: z.email('This is not an e-mail address.').default('mill@localhost.example'),
  }),
  files: z.strictObject({
    /** Of one file that is uploaded; MB, a million bytes. */
    most: z.int().min(1).max(50_000).default(500),
    /** What is kept: other kinds of file are not taken. */
    types: z.array(z.enum(fileTypeNames)).min(1, 'One kind of file is kept at least.').default(fileTypeNames),
    /** Different files a day of the site: of guests (by network), of people without a level, by level. None said: no limit. */
    perDay: z
      .strictObject({ guest: perDay.optional(), signedIn: perDay.optional(), levels: z.record(id, perDay).default({}) })
      .default({ levels: {} }),
  }),
  activity: z.strictObject({
    /** Whole months kept; older ones are dropped. */ keepMonths: z.int().min(1).max(120).default(25),
  }),
  parts: z.strictObject({
    /** Kinds of part nobody writes any more: those there are stay as they are. */
    off: z.array(z.enum(blockKinds)).default([]),
  }),
  words: z.strictObject({
    /** Languages of the public pages beside the site's own. */
    offered: z
      .array(z.string().max(35).refine(isLanguageTag, 'A language such as de or pt-BR is expected (BCP 47).'))
      .max(30)
      .default([]),
    byBrowser: z.boolean().default(true),
    /** By language: what is said in place of the words that come with it. */
    said: z.record(z.string().max(35), z.record(z.string(), anySaid)).default({}),
  }),
  look: siteLook,
  /** Who sells: what stands on invoices. */
  seller: sellerSaid,
  outside: z.strictObject({
    /** Hosts, with their port where it is not the usual one, pages may be read from to be brought here; this machine always. */
    readFrom: z.array(hostAndPort).max(50, 'At most 50 hosts.').default([]),
  }),
  payment: z.strictObject({
    /** Days a level is still held while its renewal has not gone through. */ graceDays: z
      .int()
      .min(0)
      .max(60)
      .default(7),
  }),
} as const
export type SettingGroup = keyof typeof settingGroups
export type SiteSettings = { [G in SettingGroup]: z.infer<(typeof settingGroups)[G]> } & {
  /** A mail was seen to arrive by way of the server that is set now. */ mailWorks: boolean
}
export const settingGroupIds = Object.keys(settingGroups) as SettingGroup[]

export async function readSettings(tx: AnyDb): Promise<SiteSettings> {
  const rows = new Map((await tx.select().from(setting)).map(row => [row.group, row.body]))
  const groups = Object.fromEntries(
    settingGroupIds.map(group => [group, settingGroups[group].parse(rows.get(group) ?? {})]),
  )
  return { ...groups, mailWorks: isMailChecked(rows.get(mailCheckGroup)) } as SiteSettings
}

/** Whether somebody who signs up follows a mailed link first. */
export const confirmsByMail = ({ mailWorks, 'sign-up': { confirmByMail } }: SiteSettings): boolean =>
  confirmByMail ?? mailWorks

/** A group of the application's own, such as what is known about the mail server. */
export async function readOwn<T>(tx: AnyDb, group: string): Promise<T | undefined> {
  return (await tx.select({ body: setting.body }).from(setting).where(eq(setting.group, group)))[0]?.body as
    T | undefined
}

export async function writeSetting(tx: Tx, group: string, body: unknown, changedBy: string): Promise<void> {
  const values = { body, changedBy, changedAt: new Date() }
  await tx
    .insert(setting)
    .values({ group, ...values })
    .onConflictDoUpdate({ target: setting.group, set: values })
}
