/** What the panels of a member's home show about the person who looks at it. */
import { addedBy, levelAbove, opensSoon, ownPages } from '../../../core/audit/member-view'
import { moneyWords } from '../../../core/money'
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import { clockMs } from '../../clock'
import { agentOf } from '../../agent'
import type { Tx } from '../../db/database'
import { applicationsOf, openForms, targetOf } from '../people/applications'
import { isStaff } from '../staff/authorise'
import type { PanelSort } from '../../blocks/panel-sorts'
import { firmOf } from '../people/firms'
import { listInvitations } from '../people/invitations'
import { membershipsOf, purchasesOf } from '../memberships/memberships'
import { sessionsOf } from '../entrance/sessions'
import type { Snapshot } from '../editions/snapshot'

export interface PanelLink {
  title: string
  href: string
}
export type Panel =
  | { shows: 'words' }
  | {
      shows: 'levels'
      held: {
        id: number
        name: string
        until: string | null
        paidUntil: string | null
        bought: boolean
        renews: boolean
        renewAs: string | null
      }[]
      fromFirm: string[]
      change: string
    }
  | {
      shows: 'firm'
      name: string
      owner: boolean
      me: string
      people: { id: string; name: string; owner: boolean }[]
      invited: { id: string; email: string }[]
    }
  | { shows: 'yours'; pages: PanelLink[] }
  | { shows: 'soon'; pages: (PanelLink & { at: string })[] }
  | { shows: 'up'; level: string; price: string | null; adds: string[]; more: number; href: string | null }
  | { shows: 'profile'; name: string; email: string }
  | { shows: 'sessions'; sessions: { id: string; browser: string; seenAt: string; here: boolean }[] }
  | { shows: 'payments'; payments: { at: string; level: string; amount: string; state: string }[] }
  | { shows: 'applications'; sent: { name: string; state: string; words: string }[]; open: PanelLink[] }

export interface PanelAsk {
  snapshot: Snapshot
  decider: CompiledDecider
  db: Tx
  sessionId: string | undefined
  walked: boolean
  href(path: string): string
}

/** Null where there is nothing to show: nobody is signed in, or the list is empty. */
export async function panelOf(shows: PanelSort, ask: PanelAsk): Promise<Panel | null> {
  if (shows === 'words') return { shows }
  const id = ask.decider.asker.personId
  return id === undefined ? null : panels[shows]({ ...ask, id })
}

type Of<K extends PanelSort> = Extract<Panel, { shows: K }>
type Own = PanelAsk & { id: string }

const dayOf = ({ snapshot }: Own, at: Date | number | string) =>
  new Date(at).toLocaleDateString('en-GB', {
    timeZone: snapshot.rules.index.site.timezone,
    day: 'numeric',
    month: 'long',
    year: 'numeric',
  })
const money = ({ snapshot }: PanelAsk, minor: number) => {
  const { currency, locale = 'en' } = snapshot.rules.index.site
  return moneyWords(minor, currency, locale)
}
const levelName = ({ snapshot }: PanelAsk, id: string) =>
  snapshot.rules.rulebook.levels?.find(one => one.id === id)?.name ?? id
const linkTo = ({ snapshot, href }: PanelAsk, id: string): PanelLink => {
  const page = snapshot.rules.index.get('page', id)!
  return { title: page.title ?? id, href: href(page.path) }
}
/** The outermost of a list of pages: what lies under one of them goes without saying. */
const outermost = ({ snapshot }: PanelAsk, pages: string[]) => {
  const all = new Set(pages)
  return pages.filter(id => !all.has(snapshot.rules.index.get('page', id)?.parent ?? ''))
}

const panels: { [K in Exclude<PanelSort, 'words'>]: (ask: Own) => Promise<Of<K> | null> | Of<K> | null } = {
  levels: async ask => {
    const rows = await membershipsOf(ask.db, ask.id)
    const now = clockMs()
    const held = rows
      .filter(row => row.since.getTime() <= now && (!row.until || row.until.getTime() > now))
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
      .map(level => levelName(ask, level))
    return { shows: 'levels', held, fromFirm: others, change: ask.href('/account/buy') }
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
      invited,
    }
  },
  yours: ask => {
    const pages = outermost(ask, ownPages(ask.snapshot.rules, ask.decider.visitor, clockMs()))
    return pages.length ? { shows: 'yours', pages: pages.map(id => linkTo(ask, id)) } : null
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
    const every = level.price && { month: 'a month', year: 'a year', once: 'once' }[level.price.every]
    return {
      shows: 'up',
      level: level.name ?? level.id,
      price: level.price ? `${money(ask, level.price.amount)} ${every}` : null,
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
        return [{ name: targetOf(book, one.target).name, state: one.state, words: one.words }]
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
            title: about.name,
            href: ask.href(`/apply/${target.replace(' ', '/')}`),
          })),
        }
      : null
  },
}
