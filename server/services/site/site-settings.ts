/** Changing settings: checked against the rules and against what is known to work. */
import { inTransaction } from '../../db/turn'
import { z } from 'zod'
import { conditionChecker } from '../../../core/check/references'
import type { Condition } from '../../../core/conditions/condition'
import { goneWithTheForm, knownOfNewcomers } from '../../../core/entrance/newcomer'
import { CompiledRules } from '../../../core/gates/compiled'
import type { FactGroup } from '../../../core/visitor/fact-group'
import { isLanguageTag } from '../../../core/site-words/site-words'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import type { AnyDb, Tx } from '../../db/database'
import { siteState } from '../../db/schema'
import { Problem } from '../../problem'
import { mailWorks } from '../mail/mail-check'
import { parseWith } from '../../parse-with'
import { settingsMoved } from '../versions/notify'
import { bookAt, contentsAt, lockRules } from '../versions/versions'
import type { SiteState } from '../versions/versions'
import { readSettings, saidWords, settingGroups, siteIdentity, writeSetting } from '../settings/settings'
import type { SettingGroup, SiteIdentity, SiteSettings } from '../settings/settings'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'

/** What of a group is given; what is left out stays as it was. Throws `bad-input` where the whole would not fit. */
export async function saveSettings<G extends SettingGroup>(
  db: AnyDb,
  group: G,
  change: Record<string, unknown>,
  actor: Actor,
): Promise<void> {
  await inTransaction(db, async tx => {
    const state = await lockRules(tx)
    const book = await bookAt(tx, state.live)
    const before = (await readSettings(tx))[group]
    const body = parseWith(settingGroups[group], { ...before, ...change }) as z.infer<(typeof settingGroups)[G]>
    if (group === 'words' && 'said' in change)
      parseWith(z.strictObject({ said: z.record(z.string(), saidWords) }), {
        said: (body as SiteSettings['words']).said,
      })
    if (group === 'sign-up') {
      const wanted = body as SiteSettings['sign-up']
      checkSignUp(book, wanted)
      await checkSentences(tx, state, wanted)
      const isOn = wanted.confirmByMail === true && (before as SiteSettings['sign-up']).confirmByMail !== true
      if (isOn && !(await mailWorks(tx))) throw new Problem('mail-not-checked')
    }
    await writeSetting(tx, group, body, actor.name)
    await settingsMoved(tx)
    await leaveTrace(tx, actor, 'settings.change', `settings ${group}`, { before, after: body })
  })
}

/** What is given of the words of a language, by key. */
export const wordsGiven = z.record(z.string().max(60), z.unknown())

/**
 * Words of the public pages in one language, laid over those said before: `null` says the usual ones again. Throws
 * `bad-input` at the word that does not fit.
 */
export async function saveWords(
  db: AnyDb,
  language: string,
  { words, offered }: { words: z.infer<typeof wordsGiven>; offered?: boolean | undefined },
  actor: Actor,
): Promise<void> {
  const taken = Object.entries(words).flatMap(([key, one]) => (one === null ? [key] : []))
  const given = parseWith(z.strictObject({ words: saidWords }), {
    words: Object.fromEntries(Object.entries(words).filter(([, one]) => one !== null)),
  }).words
  await inTransaction(db, async tx => {
    const { locale } = await lockedIdentity(tx)
    const before = (await readSettings(tx)).words
    const said = Object.fromEntries(
      Object.entries({ ...before.said[language], ...given }).filter(([key]) => !taken.includes(key)),
    )
    const others = before.offered.filter(one => one !== language)
    const isOffered = language !== locale && (offered ?? before.offered.includes(language))
    const after = parseWith(settingGroups.words, {
      ...before,
      offered: isOffered ? (before.offered.includes(language) ? before.offered : [...others, language]) : others,
      said: { ...before.said, [language]: said },
    })
    if (!isLanguageTag(language)) throw new Problem('no-such-settings')
    await writeSetting(tx, 'words', after, actor.name)
    await settingsMoved(tx)
    const moved = { said: before.said[language] ?? {}, offered: before.offered }
    await leaveTrace(tx, actor, 'settings.change', 'settings words', {
      language,
      before: moved,
      after: { said, offered: after.offered },
    })
  })
}

async function lockedIdentity(tx: AnyDb): Promise<SiteIdentity> {
  await lockRules(tx)
  return readIdentity(tx)
}

export async function readIdentity(tx: AnyDb): Promise<SiteIdentity> {
  const [state] = await tx
    .select({
      name: siteState.name,
      timezone: siteState.timezone,
      currency: siteState.currency,
      locale: siteState.locale,
    })
    .from(siteState)
  if (!state) throw new Problem('not-set-up')
  return state
}

/** The name, clock, money and language of the site. Amounts stay as they are: another currency converts nothing. */
export async function saveIdentity(db: AnyDb, change: Record<string, unknown>, actor: Actor): Promise<void> {
  await inTransaction(db, async tx => {
    await lockRules(tx)
    const before = await readIdentity(tx)
    const after = parseWith(siteIdentity, { ...before, ...change })
    await tx.update(siteState).set(after)
    await settingsMoved(tx)
    await leaveTrace(tx, actor, 'settings.change', 'settings site', { before, after })
  })
}

function checkSignUp(book: Rulebook, { startLevel, startRoles, facts }: SiteSettings['sign-up']): void {
  if (startLevel !== null && !book.levels?.some(level => level.id === startLevel))
    throw new Problem('unknown-level', { level: startLevel }, { at: '/startLevel' })
  startRoles.forEach((id, i) => {
    const role = book.roles?.find(one => one.id === id)
    if (!role) throw new Problem('unknown-role', { role: id }, { at: `/startRoles/${i}` })
    if (role.staff)
      throw new Problem(
        'staff-role-on-sign-up',
        {},
        {
          at: `/startRoles/${i}`,
        },
      )
  })
  facts.forEach(({ fact }, i) => {
    if (!book.facts?.some(one => one.id === fact && !one.from))
      throw new Problem('unknown-fact', { fact }, { at: `/facts/${i}/fact` })
    if (facts.findIndex(one => one.fact === fact) < i)
      throw new Problem('fact-asked-twice', { fact }, { at: `/facts/${i}/fact` })
  })
}

type Sentence = [who: Condition, at: string, isKnown: (group: FactGroup) => boolean]
const asked = (group: FactGroup) => !goneWithTheForm.has(group)
const looked = (group: FactGroup) => knownOfNewcomers.has(group)

/** Whom something is asked of, and whom somebody looks at: by what the live edition names, and what is known of them then. */
async function checkSentences(tx: Tx, state: SiteState, { facts, lookAt }: SiteSettings['sign-up']): Promise<void> {
  const sentences: Sentence[] = facts.flatMap(({ of }, i) => (of ? [[of, `/facts/${i}/of`, asked]] : []))
  if (lookAt) sentences.push([lookAt, '/lookAt', looked])
  if (!sentences.length) return
  const { book, index } = await contentsAt(tx, state, state.live)
  const rules = new CompiledRules(book, index)
  const named = conditionChecker(book as unknown as Record<string, unknown>, index)
  for (const [who, at, isKnown] of sentences) {
    const [wrong] = named([[who, []]])
    if (wrong) throw new Problem('unknown-in-sentence', { why: wrong.message }, { at: `${at}${wrong.at}` })
    const groups = [...rules.factsOfCondition(who)].filter(group => !isKnown(group))
    if (groups.length) throw new Problem('not-known-at-door', { groups }, { at })
  }
}
