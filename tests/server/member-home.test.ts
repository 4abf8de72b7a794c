import { siteWords } from '../../core/site-words/site-words'
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { CompiledRules } from '../../core/gates/compiled'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import type { Visitor } from '../../core/visitor/visitor'
import type { Role } from '../../core/rulebook/people-rules'
import { clockMs } from '../../server/clock'
import type { Connection } from '../../server/db/database'
import { membership, purchase } from '../../server/db/schema'
import { saveForm } from '../../server/services/forms/forms'
import { apply, decideApplication, waitingApplications } from '../../server/services/people/applications'
import { panelOf } from '../../server/services/pages/member-panels'
import type { PanelSort } from '../../core/blocks/panel-sorts'
import { sessionsOf, startSession } from '../../server/services/entrance/sessions'
import { visitorOf } from '../../server/services/standing/visitor-of'
import { freshDatabase } from '../support/database'
import { ines, keeperOf, liveRules, snapshotOf } from '../support/world'

let site: Connection & { url: string }
let rules: CompiledRules
beforeAll(async () => {
  site = await freshDatabase('demo')
  rules = await liveRules(site)
})
afterAll(() => site.close())

/** What a panel shows to one of the demo's people, or to a visitor made up for it. */
async function panel(
  shows: PanelSort,
  who: string | Visitor,
  more: { sessionId?: string; walked?: boolean; book?: typeof rules.rulebook } = {},
) {
  const visitor = typeof who === 'string' ? (await visitorOf(site.db, who))! : who
  const compiled = more.book ? new CompiledRules(more.book, rules.index.site) : rules
  const decider = new CompiledDecider(
    compiled,
    { ...visitor, request: { at: new Date(clockMs()).toISOString() } },
    clockMs(),
  )
  return panelOf(shows, {
    snapshot: snapshotOf(compiled),
    decider,
    db: site.db,
    sessionId: more.sessionId,
    walked: more.walked ?? false,
    href: path => `/base${path}`,
    words: siteWords(undefined, 'en-GB', () => true),
  })
}
const titles = (found: Awaited<ReturnType<typeof panel>>) =>
  found && 'pages' in found
    ? found.pages.map(one => one.title)
    : found && 'groups' in found
      ? found.groups.flatMap(group => group.pages.map(one => one.title))
      : null

describe("a member's home", () => {
  it('shows guests nothing of anybody', async () => {
    for (const shows of [
      'levels',
      'firm',
      'yours',
      'soon',
      'up',
      'profile',
      'sessions',
      'payments',
      'applications',
    ] as const)
      expect(await panel(shows, { person: null }), shows).toBeNull()
    expect(await panel('words', { person: null })).toEqual({ shows: 'words' })
  })

  it('tells levels held now and until when, and what a firm brings besides', async () => {
    const guda = await panel('levels', 'p-guda')
    expect(guda).toMatchObject({
      shows: 'levels',
      held: [{ name: 'Guild', until: expect.stringContaining('January 2027') as string, bought: false }],
      change: '/base/account/buy',
    })
    // Isla's guild year is over.
    expect(await panel('levels', 'p-isla')).toMatchObject({ held: [], fromFirm: [] })
    expect(
      await panel('levels', {
        person: { id: 'tier-maker' },
        levels: [{ level: 'maker', since: '2026-01-01T00:00:00Z' }],
      }),
    ).toMatchObject({ held: [], fromFirm: [], also: ['Maker'] })
  })

  it('tells a role by its public name, to whom holds it, and no other name of it to anybody', async () => {
    const told = (change: Partial<Role>) => {
      const roles = rules.rulebook.roles!.map(role =>
        role.id === 'test-knitter' ? { id: role.id, name: 'Unpaid tester', ...change } : role,
      )
      const [book, who] = [
        { ...rules.rulebook, roles },
        { person: { id: 'tier-knitter' }, roles: ['test-knitter', 'front-desk'] },
      ]
      return Promise.all([panel('levels', who, { book }), panel('yours', who, { book })])
    }
    const script = '<script>alert(1)</script>'
    expect(await told({ publicName: script, shown: true })).toMatchObject([
      { also: [script] },
      { groups: [{ by: `as ${script}` }] },
    ])
    for (const change of [{}, { publicName: 'Test knitter' }, { shown: true }]) {
      const [levels, yours] = await told(change)
      expect([levels, yours]).toMatchObject([{ also: [] }, { groups: [{ by: null }] }])
      expect(JSON.stringify([levels, yours])).not.toContain('Unpaid')
    }
  })

  it('tells the firm, who is in it, and whether one owns it', async () => {
    expect(await panel('firm', 'p-stella')).toMatchObject({ name: 'Gullhaven Knits', owner: true, me: 'p-stella' })
    expect(await panel('firm', 'p-pia')).toBeNull()
  })

  it('lists what is theirs: pages that open to them and not to everybody, the outermost of each branch', async () => {
    const stella = titles(await panel('yours', 'p-stella'))!
    expect(stella).toContain('Trade desk')
    expect(stella).not.toContain('Trade prices')
    expect(await panel('yours', 'p-stella')).toMatchObject({ groups: [{ by: 'through your firm' }] })
    const guda = (await panel('yours', 'p-guda')) as { groups: { by: string | null }[] }
    expect(guda.groups.map(group => group.by)).toContain('as Guild')
    expect(titles(await panel('yours', 'p-pia')) ?? []).not.toContain('Trade desk')
  })

  it('names what opens soon only where it may be known already', async () => {
    const from = new Date(clockMs() + 10 * 86_400_000).toISOString().slice(0, 10)
    const soon = {
      ...rules.rulebook,
      gates: rules.rulebook.gates!.map(gate =>
        gate.id === 'winter-vat' ? { ...gate, open: { date: { from } } } : gate,
      ),
    }
    expect(titles(await panel('soon', 'p-guda', { book: soon }))).toContain('The winter indigo vat')
    const hidden = {
      ...soon,
      gates: soon.gates.map(gate => {
        const { find: _find, ...rest } = gate
        return gate.id === 'winter-vat' ? rest : gate
      }),
    } as typeof soon
    expect(titles(await panel('soon', 'p-guda', { book: hidden })) ?? []).not.toContain('The winter indigo vat')
  })

  it('tells what one level up adds, and its price; nothing above the highest', async () => {
    expect(await panel('up', 'p-fenn')).toMatchObject({
      level: 'Maker',
      price: '€6.00 a month',
      href: '/base/account/buy?level=maker',
    })
    expect(await panel('up', 'p-guda')).toBeNull()
  })

  it("lists browsers and which one this is, and none of anybody's on a walk", async () => {
    await startSession(site.db, 'p-mako', {
      agent: 'Mozilla/5.0 (X11; Linux x86_64) Firefox/140.0',
      network: '192.0.2.9',
    })
    const [first] = await sessionsOf(site.db, 'p-mako')
    await startSession(site.db, 'p-mako', { agent: 'curl/8', network: '192.0.2.9' })
    const own = await panel('sessions', 'p-mako', { sessionId: first!.id })
    expect(own && 'sessions' in own ? own.sessions.map(one => [one.browser, one.here]).toSorted() : []).toEqual([
      ['A program', false],
      ['Firefox on Linux', true],
    ])
    expect(await panel('sessions', 'p-mako', { walked: true })).toBeNull()
  })

  it("lists payments in the site's money", async () => {
    expect(await panel('payments', 'p-fenn')).toBeNull()
    const [held] = await site.db.select().from(membership).where(eq(membership.personId, 'p-fenn'))
    await site.db.insert(purchase).values({
      reference: 'pay-test',
      personId: 'p-fenn',
      level: 'maker',
      sort: 'new',
      amount: 600,
      state: 'declined',
      membershipId: held!.id,
      createdAt: new Date('2026-03-04T12:00:00Z'),
    })
    expect(await panel('payments', 'p-fenn')).toEqual({
      shows: 'payments',
      payments: [{ at: '4 March 2026', level: 'Maker', amount: '€6.00', state: 'declined' }],
    })
  })

  it('follows an application from the open form to the answer', async () => {
    await saveForm(site.db, 'role test-knitter', { open: true, intro: '', questions: ['How many hours a week?'] }, ines)
    await saveForm(site.db, 'role shop-hand', { open: true, intro: '', questions: [] }, ines)
    const open = async (who: string) => {
      const found = await panel('applications', who)
      return found && 'open' in found ? found.open.map(one => one.href) : []
    }
    expect(await open('p-pia')).toContain('/base/apply/role/test-knitter')
    // Staff roles are offered to the staff alone, and nothing to who has it.
    expect(await open('p-pia')).not.toContain('/base/apply/role/shop-hand')
    expect(await open('p-tomas')).toContain('/base/apply/role/shop-hand')
    expect(await open('p-tilde')).not.toContain('/base/apply/role/test-knitter')
    await apply(
      site.db,
      rules.rulebook,
      { target: 'role test-knitter', answers: ['Six'], isStaff: false },
      { id: 'p-pia', name: 'Pia Lain' },
    )
    const waiting = (await waitingApplications(site.db)).find(one => one.person.id === 'p-pia')!
    await decideApplication(site.db, keeperOf(rules), waiting.id, { accept: false, words: 'Next year, gladly.' }, ines)
    expect(await panel('applications', 'p-pia')).toMatchObject({
      sent: [{ name: 'Test knitter', state: 'declined', words: 'Next year, gladly.' }],
    })
  })
})
