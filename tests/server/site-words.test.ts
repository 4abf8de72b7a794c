import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Connection } from '../../server/db/database'
import { setting, trace } from '../../server/db/schema'
import { readSettings } from '../../server/services/settings/settings'
import { readIdentity, saveSettings, saveWords } from '../../server/services/site/site-settings'
import { Problem } from '../../server/problem'
import { freshDatabase } from '../support/database'
import { ines } from '../support/world'

let site: Connection
/** The site's own language. */
let own: string
beforeAll(async () => {
  site = await freshDatabase('demo')
  own = (await readIdentity(site.db)).locale
})
afterAll(() => site.close())
const words = async () => (await readSettings(site.db)).words
const save = (language: string, given: Record<string, unknown>, offered?: boolean) =>
  saveWords(site.db, language, { words: given, ...(offered === undefined ? {} : { offered }) }, ines)
const problemOf = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: unknown) =>
      error instanceof Problem
        ? [error.code, (error.extra.issues as { at: string }[] | undefined)?.[0]?.at]
        : String(error),
  )

describe('the words of the public pages', () => {
  it('are changed one by one: what is not given stays, and null has the usual ones again', async () => {
    await save(own, { 'page.nothing': { guest: 'Lost?', member: 'Not here' }, 'part.listed': 'Guild only' })
    await save(own, { 'part.listed': null, 'enter.sign-in': 'Come in' })
    expect((await words()).said[own]).toEqual({
      'page.nothing': { guest: 'Lost?', member: 'Not here' },
      'enter.sign-in': 'Come in',
    })
    const [told] = (await site.db.select().from(trace).where(eq(trace.subject, 'settings words'))).slice(-1)
    expect(told).toMatchObject({ who: ines.name, action: 'settings.change', detail: { language: own } })
  })

  it('of another language are offered with it, and no longer', async () => {
    await save('cy', { 'enter.sign-in': 'Mewngofnodi' }, true)
    expect((await words()).offered).toEqual(['cy'])
    await save('cy', {}, false)
    expect(await words()).toMatchObject({ offered: [], said: { cy: { 'enter.sign-in': 'Mewngofnodi' } } })
    // The site's own is there anyway.
    await save(own, {}, true)
    expect((await words()).offered).toEqual([])
  })

  it('two that are changed at once are both kept', async () => {
    await Promise.all([save('de', { 'page.skip': 'Los' }), save('de', { 'page.more': 'Mehr davon' })])
    expect((await words()).said.de).toEqual({ 'page.skip': 'Los', 'page.more': 'Mehr davon' })
  })

  it.each([
    ['de', { 'page.nowhere': 'x' }, '/words/page.nowhere'],
    ['de', { 'home.become': 'Become {nmae}' }, '/words/home.become'],
    ['de', { 'part.rest-guest': 'Sign in' }, '/words/part.rest-guest'],
    ['de', { 'page.nothing': { guest: ' ' } }, '/words/page.nothing/guest'],
    ['de', { 'enter.email': { guest: 'Mail' } }, '/words/enter.email'],
    ['de', { 'page.nothing': 7 }, '/words/page.nothing'],
  ])('of %s refuse %j at their place, and stay as they were', async (language, given, at) => {
    const before = await words()
    expect(await problemOf(save(language, given))).toEqual(['bad-input', at])
    expect(await words()).toEqual(before)
  })

  it('know no language that is none, nor what is strange when given as a whole', async () => {
    expect((await problemOf(save('../x', {}, true)))?.[0]).toBe('bad-input')
    expect((await problemOf(save('../x', {}, false)))?.[0]).toBe('not-found')
    const whole = saveSettings(site.db, 'words', { said: { de: { 'home.become': '{x}' } } }, ines)
    expect((await problemOf(whole))?.[0]).toBe('bad-input')
  })

  it('that nobody knows any more are passed over when they are read', async () => {
    await site.db
      .update(setting)
      .set({ body: { ...(await words()), said: { en: { 'page.gone': 'x' } } } })
      .where(eq(setting.group, 'words'))
    expect((await words()).said.en).toEqual({ 'page.gone': 'x' })
  })
})

describe('the look of the public site', () => {
  it('is kept where it can be read, and refused at its place where it cannot', async () => {
    await saveSettings(site.db, 'look', { colour: '#1d5c63', mark: 'letters' }, ines)
    expect((await readSettings(site.db)).look).toMatchObject({ colour: '#1d5c63', mark: 'letters', ground: '#ffffff' })
    expect(await problemOf(saveSettings(site.db, 'look', { colour: '#e9d9c9' }, ines))).toEqual([
      'bad-input',
      '/colour',
    ])
    expect(await problemOf(saveSettings(site.db, 'look', { ground: '#7f7f7f' }, ines))).toEqual([
      'bad-input',
      '/ground',
    ])
    expect(await problemOf(saveSettings(site.db, 'look', { typeface: 'loud' }, ines))).toEqual([
      'bad-input',
      '/typeface',
    ])
  })
})
