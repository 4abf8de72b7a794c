/** What the panels of a member's home show about the person who looks at it. */
import { addedBy, levelAbove, opensSoon, ownPagesBy } from '../../../core/audit/member-view'
import type { Grant } from '../../../core/audit/member-view'
import { levelCalled, levelCalledIn, levelShown, roleShown } from '../../../core/rulebook/public-name'
import { moneyWords } from '../../../core/money'
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import { clockMs } from '../../clock'
import { agentOf } from '../../agent'
import type { AnyDb } from '../../db/database'
import { openForms, targetOf } from '../forms/forms'
import { applicationsOf } from '../people/applications'
import { isStaff } from '../staff/authorise'
import type { PanelSort } from '../../../core/blocks/panel-sorts'
import { firmOf } from '../people/firms'
import { listInvitations } from '../people/invitations'
import { purchasesOf } from '../memberships/held'
import { membershipsOf } from '../memberships/memberships'
import { sessionsOf } from '../entrance/sessions'
import { firmFactsAsked } from '../entrance/sign-up-form'
import type { Snapshot } from '../live/snapshot'
import { sayWord } from '../../../core/site-words/site-words'
import type { SiteWords } from '../../../core/site-words/site-words'
import type { Panel, PanelLink } from '../../../core/view/panel'

export interface PanelAsk {
  snapshot: Snapshot
  decider: CompiledDecider
  db: AnyDb
  sessionId: string | undefined
  walked: boolean
  href(path: string): string
  words: SiteWords
}

/** Null where there is nothing to show: nobody is signed in, or the list is empty. */
export async function panelOf(shows: PanelSort, ask: PanelAsk): Promise<Panel | null> {
  if (shows === 'words') return { shows }
  const id = ask.decider.asker.personId
  return id === undefined ? null : panels[shows]({ ...ask, id })
}

type Of<K extends PanelSort> = Extract<Panel, { shows: K }>
type Own = PanelAsk & { id: string }

const dayOf = ({ snapshot, words }: Own, at: Date | number | string) =>
  new Date(at).toLocaleDateString(words.locale, {
    timeZone: snapshot.rules.index.site.timezone,
    day: 'numeric',
    month: 'long',
    year: 'numeric',
  })
const money = ({ snapshot, words }: PanelAsk, minor: number) =>
  moneyWords(minor, snapshot.rules.index.site.currency, words.locale)
const levelName = ({ snapshot }: PanelAsk, id: string) => levelCalledIn(snapshot.rules.rulebook.levels, id)
/** Null where whoever holds it is not told. */
const toldLevel = ({ snapshot }: PanelAsk, id: string) => {
  const level = snapshot.rules.rulebook.levels?.find(one => one.id === id)
  return level ? levelShown(level) : id
}
const toldRole = ({ snapshot }: PanelAsk, id: string) => {
  const role = snapshot.rules.rulebook.roles?.find(one => one.id === id)
  return role ? roleShown(role) : null
}
const isTold = (name: string | null): name is string => name !== null
const linkTo = ({ snapshot, href }: PanelAsk, id: string): PanelLink => {
  const page = snapshot.rules.index.get('page', id)!
  return { title: page.title ?? id, href: href(page.path) }
}
/** The outermost of a list of pages: what lies under one of them goes without saying. */
const outermost = ({ snapshot }: PanelAsk, pages: string[]) => {
  const all = new Set(pages)
  return pages.filter(id => !all.has(snapshot.rules.index.get('page', id)?.parent ?? ''))
}

/** How somebody comes by something, as they are told; null where that is not for them to know. */
function grantedBy(ask: Own, by: Grant): string | null {
  if ('firm' in by) return sayWord(ask.words, 'home.through-firm')
  if ('together' in by) return null
  const name = 'level' in by ? toldLevel(ask, by.level) : toldRole(ask, by.role)
  return name === null ? null : sayWord(ask.words, 'home.as', { name })
}

const panels: { [K in Exclude<PanelSort, 'words'>]: (ask: Own) => Promise<Of<K> | null> | Of<K> | null } = {
  levels: async ask => {
    const rows = await membershipsOf(ask.db, ask.id)
    const now = clockMs()
    const held = rows
      .filter(row => row.since.getTime() <= now && (!row.until || row.until.getTime() > now))
      // What somebody pays for they are told of.
      .filter(row => row.source === 'bought' || toldLevel(ask, row.level) !== null)
      .map(row => ({
        id: row.id,
        name: levelName(ask, row.level),
        until: row.until && dayOf(ask, row.until),
        paidUntil: row.paidUntil && dayOf(ask, row.paidUntil),
        bought: row.source === 'bought' && row.paidUntil !== null,
        renews: row.renews,
        renewAs: row.renewAs && levelName(ask, row.renewAs),
      }))
    const own = new Set(rows.map(row => row.level))
    // What a walk as a tier, or a firm, brings besides one's own.
    const others = [...ask.decider.asker.levels.keys()]
      .filter(level => !own.has(level))
      .map(level => toldLevel(ask, level))
      .filter(isTold)
    const roles = [...ask.decider.asker.roles].map(role => toldRole(ask, role)).filter(isTold)
    const byFirm = ask.decider.asker.firm !== undefined
    return {
      shows: 'levels',
      held,
      fromFirm: byFirm ? others : [],
      also: [...(byFirm ? [] : others), ...roles],
      change: ask.href('/account/buy'),
    }
  },
  firm: async ask => {
    const firm = await firmOf(ask.db, ask.id)
    if (!firm) return null
    const invited =
      firm.mine && !ask.walked
        ? (await listInvitations(ask.db, ask.snapshot.rules.rulebook, firm.id))
            .filter(one => !one.void)
            .map(({ id, email }) => ({ id, email }))
        : []
    return {
      shows: 'firm',
      name: firm.name,
      owner: firm.mine,
      me: ask.id,
      people: firm.people.map(({ id, name, owner }) => ({ id, name, owner })),
      facts: firmFactsAsked({ book: ask.snapshot.rules.rulebook, settings: ask.snapshot.settings })
        .map(({ id, name }) => ({ id, name: name ?? id, value: firm.facts[id] ?? '' }))
        .filter(one => firm.mine || one.value),
      invited,
    }
  },
  yours: async ask => {
    const firm = await firmOf(ask.db, ask.id)
    const now = clockMs()
    const runs = (until: string | null) => !until || Date.parse(until) > now
    const shared = firm && {
      levels: firm.levels.filter(one => Date.parse(one.since) <= now && runs(one.until)).map(one => one.level),
      roles: firm.roles,
    }
    const { rules } = ask.snapshot
    const groups = new Map<string | null, string[]>()
    for (const { by, pages } of ownPagesBy(rules, ask.decider.visitor, now, shared ?? undefined)) {
      const name = grantedBy(ask, by)
      groups.set(name, [...(groups.get(name) ?? []), ...pages])
    }
    // What lies under a page of any group goes without saying.
    const shown = new Set(outermost(ask, [...groups.values()].flat()))
    const told = [...groups].flatMap(([by, pages]) => {
      const links = pages.filter(id => shown.has(id)).map(id => linkTo(ask, id))
      return links.length ? [{ by, pages: links }] : []
    })
    return told.length ? { shows: 'yours', groups: told } : null
  },
  soon: ask => {
    const soon = opensSoon(ask.snapshot.rules, ask.decider.visitor, clockMs()).slice(0, 6)
    return soon.length
      ? { shows: 'soon', pages: soon.map(({ page, at }) => ({ ...linkTo(ask, page), at: dayOf(ask, at) })) }
      : null
  },
  up: ask => {
    const level = levelAbove(ask.snapshot.rules.rulebook.levels ?? [], ask.decider.visitor, clockMs())
    if (!level) return null
    const adds = addedBy(ask.snapshot.rules, ask.decider.visitor, level.id, clockMs()).map(id => linkTo(ask, id).title)
    return {
      shows: 'up',
      level: levelCalled(level),
      price: level.price
        ? sayWord(ask.words, `price.${level.price.every}`, { amount: money(ask, level.price.amount) })
        : null,
      adds: adds.slice(0, 6),
      more: Math.max(0, adds.length - 6),
      href: level.price ? ask.href(`/account/buy?level=${level.id}`) : null,
    }
  },
  profile: ask => ({
    shows: 'profile',
    name: ask.decider.visitor.person?.name ?? '',
    email: ask.decider.visitor.person?.email ?? '',
  }),
  sessions: async ask => {
    const sessions = await sessionsOf(ask.db, ask.id)
    return sessions.length && !ask.walked
      ? {
          shows: 'sessions',
          sessions: sessions.slice(0, 8).map(one => ({
            id: one.id,
            browser: agentOf(one.agent).name,
            seenAt: dayOf(ask, one.seenAt),
            here: one.id === ask.sessionId,
          })),
        }
      : null
  },
  payments: async ask => {
    const rows = await purchasesOf(ask.db, ask.id)
    return rows.length
      ? {
          shows: 'payments',
          payments: rows.slice(0, 8).map(row => ({
            at: dayOf(ask, row.createdAt),
            level: levelName(ask, row.level),
            amount: money(ask, row.amount),
            state: row.state,
          })),
        }
      : null
  },
  applications: async ask => {
    const book = ask.snapshot.rules.rulebook
    const sent = (await applicationsOf(ask.db, ask.id)).flatMap(one => {
      try {
        return [{ name: targetOf(book, one.target).called, state: one.state, words: one.words }]
      } catch {
        return []
      }
    })
    const { roles, levels } = ask.decider.asker
    const open = (await openForms(ask.db, book, isStaff(ask.decider))).filter(({ about }) =>
      about.kind === 'role' ? !roles.has(about.id) : !levels.has(about.id),
    )
    return sent.length || open.length
      ? {
          shows: 'applications',
          sent,
          open: open.map(({ target, about }) => ({
            title: about.called,
            href: ask.href(`/apply/${target.replace(' ', '/')}`),
          })),
        }
      : null
  },
}
