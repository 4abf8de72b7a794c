/** Nobody becomes staff by the way: not between draft and publication, and not by an invitation that was on its way. */
import { desc, eq } from 'drizzle-orm'
import { afterAll, beforeEach, describe, expect, it } from 'vitest'
import type { Connection } from '../../server/db/database'
import { firmRole, mailOut, oneTimeLink, person, roleGrant, version } from '../../server/db/schema'
import { forgetContents } from '../../server/services/versions/versions'
import { Problem } from '../../server/problem'
import { dropLinks, makeLink, peekLink } from '../../server/services/secrets/one-time-links'
import { askReset, invite, resetPassword, signUp } from '../../server/services/entrance/sign-up'
import { startSession, sessionsOf } from '../../server/services/entrance/sessions'
import { inviteToFirm, joinFirm } from '../../server/services/people/firms'
import { listInvitations, revokeFirmInvitation, revokeInvitation } from '../../server/services/people/invitations'
import { giveHolding } from '../../server/services/people/holdings'
import { changePerson } from '../../server/services/people/people'
import { asSystem, saveEntry } from '../../server/services/editions/entries'
import { publish } from '../../server/services/editions/publish'
import { bookAt, defaultSettings, entriesAt, ines, keeperOf, liveRules } from '../support/world'
import { freshDatabase } from '../support/database'

let site: Connection & { url: string }
const worlds: Connection[] = []
beforeEach(async () => {
  site = await freshDatabase('demo')
  worlds.push(site)
})
afterAll(() => Promise.all(worlds.map(one => one.close())))

const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'none',
    (error: unknown) => (error instanceof Problem ? error.code : String(error)),
  )
const world = async () => ({
  rules: await liveRules(site),
  settings: defaultSettings,
  nowMs: Date.now(),
})
const nell = { name: 'Nell Orr', email: 'nell@orr.example', password: 'harbour lights', facts: {} }
const tokenOf = async (to: string) => {
  const [mail] = await site.db.select().from(mailOut).where(eq(mailOut.recipient, to)).orderBy(desc(mailOut.id))
  return /(?:token|invitation)=([\w-]+)/.exec(mail!.values.link!)![1]!
}
const rolesOf = async (personId: string) =>
  (await site.db.select().from(roleGrant).where(eq(roleGrant.personId, personId))).map(one => one.role)

/** A role nobody holds, published as a visitor's; then a draft in which it is a staff role. */
async function risingRole(): Promise<void> {
  const put = async (body: object) => {
    const before = (await entriesAt(site.db, 3)).find(one => one.kind === 'role' && one.key === 'ferryman')
    await saveEntry(site.db, {
      permit: asSystem,
      kind: 'role',
      key: 'ferryman',
      body: { id: 'ferryman', name: 'Ferryman', ...body },
      expects: before ? { id: before.id, revision: before.revision } : null,
      actor: ines,
    })
  }
  await put({})
  await publish(site.db, { authorise: asSystem, note: '', expects: 1, actor: ines })
  await put({ staff: true })
}
const publishRise = () => codeOf(publish(site.db, { authorise: asSystem, note: '', expects: 2, actor: ines }))

describe('a role that becomes a staff role in the draft', () => {
  it('is published while nobody holds it', async () => {
    await risingRole()
    expect(await publishRise()).toBe('none')
  })

  it.each<[string, () => Promise<unknown>]>([
    [
      'somebody was given it',
      async () =>
        giveHolding(site.db, keeperOf(await liveRules(site)), 'p-pia', { what: 'role', role: 'ferryman' }, ines),
    ],
    [
      'a firm was given it',
      () => site.db.insert(firmRole).values({ firmId: 'gullhaven', role: 'ferryman', grantedBy: 'test' }),
    ],
    [
      'an invitation carries it',
      () => invite(site.db, { email: 'nell@orr.example', levels: [], roles: ['ferryman'] }, ines),
    ],
  ])('is not published once %s meanwhile', async (_, meanwhile) => {
    await risingRole()
    await meanwhile()
    expect(await publishRise()).toBe('in-use')
  })

  it('is given to nobody by an invitation taken up after it was published', async () => {
    await risingRole()
    await invite(site.db, { email: nell.email, levels: ['maker'], roles: ['ferryman', 'islander'] }, ines)
    const token = await tokenOf(nell.email)
    // As an older version would have published it, invitation or not.
    await site.db
      .update(version)
      .set({ body: { id: 'ferryman', name: 'Ferryman', staff: true } })
      .where(eq(version.key, 'ferryman'))
    forgetContents()
    expect((await listInvitations(site.db, (await liveRulesAt()).rulebook)).map(one => one.void)).toEqual([true])
    const { personId } = await signUp(site.db, await world(), { ...nell, invitation: token })
    expect(await rolesOf(personId!)).toEqual(['islander'])
  })

  const liveRulesAt = async () => ({ rulebook: await bookAt(site.db, 2) })
})

describe('master keys in a draft', () => {
  it('are not published where nobody who can sign in would hold one', async () => {
    const [settings] = (await entriesAt(site.db, 2)).filter(one => one.kind === 'settings')
    await saveEntry(site.db, {
      permit: asSystem,
      kind: 'settings',
      key: settings!.key,
      body: { ...(settings!.body as object), masterKeys: ['shop-hand'] },
      expects: { id: settings!.id, revision: settings!.revision },
      actor: ines,
    })
    await site.db.update(person).set({ suspendedAt: new Date() }).where(eq(person.id, 'p-oona'))
    expect(await codeOf(publish(site.db, { authorise: asSystem, note: '', expects: 1, actor: ines }))).toBe('in-use')
    await site.db.update(person).set({ suspendedAt: null }).where(eq(person.id, 'p-oona'))
    expect(await codeOf(publish(site.db, { authorise: asSystem, note: '', expects: 1, actor: ines }))).toBe('none')
  })
})

describe('an invitation', () => {
  it('is seen and taken back, and then leads nowhere', async () => {
    await invite(site.db, { email: nell.email, levels: ['maker'], roles: [] }, ines)
    const [listed] = await listInvitations(site.db, (await world()).rules.rulebook)
    expect(listed).toMatchObject({ email: nell.email, by: 'Ines Varga', levels: ['maker'], void: false })
    await revokeInvitation(site.db, keeperOf(await liveRules(site)), listed!.id, ines)
    expect(await codeOf(signUp(site.db, await world(), { ...nell, invitation: await tokenOf(nell.email) }))).toBe(
      'bad-token',
    )
    expect(await listInvitations(site.db, (await world()).rules.rulebook)).toEqual([])
  })

  it('to a firm is void once its sender owns the firm no more, and is taken back by an owner', async () => {
    const stella = { id: 'p-stella', name: 'Stella Brand' }
    const pia = { id: 'p-pia', name: 'Pia Lain', email: 'pia@wexlow.example' }
    await inviteToFirm(site.db, stella, pia.email)
    await site.sql`update firm_member set owner = false where person_id = 'p-stella'`
    expect(await codeOf(joinFirm(site.db, pia, await tokenOf(pia.email)))).toBe('bad-token')
    await site.sql`update firm_member set owner = true where person_id = 'p-stella'`
    const [listed] = await listInvitations(site.db, (await world()).rules.rulebook, 'gullhaven')
    await revokeFirmInvitation(site.db, stella, listed!.id)
    expect(await codeOf(joinFirm(site.db, pia, await tokenOf(pia.email)))).toBe('bad-token')
  })
})

describe('links that let somebody in', () => {
  const links = (id: string) =>
    Promise.all(
      (['reset', 'address', 'confirm'] as const).map(purpose =>
        makeLink(site.db, { purpose, personId: id, data: { email: 'x@x.example' } }),
      ),
    )
  const working = async (tokens: string[]) =>
    (
      await Promise.all(
        (['reset', 'address', 'confirm'] as const).map((purpose, i) => peekLink(site.db, tokens[i]!, purpose)),
      )
    ).filter(Boolean).length

  it('die with a change of password or of address, and sessions with an address staff change', async () => {
    let tokens = await links('p-pia')
    await startSession(site.db, 'p-pia')
    await changePerson(site.db, 'p-pia', { name: 'Pia L.' }, ines)
    expect([await working(tokens), (await sessionsOf(site.db, 'p-pia')).length]).toEqual([3, 1])
    await changePerson(site.db, 'p-pia', { email: 'pia@elsewhere.example' }, ines)
    expect([await working(tokens), (await sessionsOf(site.db, 'p-pia')).length]).toEqual([0, 0])
    tokens = await links('p-pia')
    await askReset(site.db, 'pia@elsewhere.example')
    await resetPassword(site.db, await world(), {
      token: await tokenOf('pia@elsewhere.example'),
      password: 'second thoughts',
    })
    expect(await working(tokens)).toBe(0)
    expect(await site.db.$count(oneTimeLink, eq(oneTimeLink.personId, 'p-fenn'))).toBe(0)
    await dropLinks(site.db, 'p-fenn', ['reset'])
  })
})
