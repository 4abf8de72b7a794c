/** Settings outside the rules, by group, each with its defaults. */
import { eq } from 'drizzle-orm'
import { z } from 'zod'
import { blockKinds } from '../../../core/blocks/blocks'
import type { Tx } from '../../db/database'
import { setting } from '../../db/schema'

const id = z.string().min(1)

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

export const settingGroups = {
  'sign-up': z.strictObject({
    mode: z.enum(['open', 'invitation', 'closed']).default('open'),
    /** The address is confirmed by a link before anything else. */
    confirmByMail: z.boolean().default(false),
    /** Somebody of the staff looks at each sign-up. */
    approveByHand: z.boolean().default(false),
    /** Null: levels the rules give on sign-up. */
    startLevel: id.nullable().default(null),
    startRoles: z.array(id).default([]),
    /** Profile facts asked for, in order. */
    facts: z.array(z.strictObject({ fact: id, required: z.boolean() })).default([]),
  }),
  mail: z.strictObject({
    senderName: z.string().max(200).default(''),
    senderAddress: z.email('This is not an e-mail address.').default('mill@localhost.example'),
  }),
  activity: z.strictObject({
    /** Whole months kept; older ones are dropped. */ keepMonths: z.int().min(1).max(120).default(25),
  }),
  parts: z.strictObject({
    /** Kinds of part nobody writes any more: those there are stay as they are. */
    off: z.array(z.enum(blockKinds)).default([]),
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
export type SiteSettings = { [G in SettingGroup]: z.infer<(typeof settingGroups)[G]> }
export const settingGroupIds = Object.keys(settingGroups) as SettingGroup[]

export async function readSettings(tx: Tx): Promise<SiteSettings> {
  const rows = new Map((await tx.select().from(setting)).map(row => [row.group, row.body]))
  return Object.fromEntries(
    settingGroupIds.map(group => [group, settingGroups[group].parse(rows.get(group) ?? {})]),
  ) as SiteSettings
}

/** A group of the application's own, such as what is known about the mail server. */
export async function readOwn<T>(tx: Tx, group: string): Promise<T | undefined> {
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
