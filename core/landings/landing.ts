/** Where a person goes next: the first landing whose condition is true. */
import { mayLead } from '../site/leads'
import type { Condition } from '../conditions/condition'
import type { Landing, LandingMoment } from '../rulebook/rulebook'
import type { Resource } from '../kinds/kinds'
import type { Asker } from '../visitor/asker'

export interface LandingAsk {
  on: LandingMoment
  asker: Asker
  admits(condition: Condition): boolean
  opens(resource: Resource): boolean
  /** Hosts the site may lead to. */
  leadsTo?: readonly string[] | undefined
  /** The page the person was refused on the way in, with its address. */
  refused?: { resource: Resource; path: string | undefined }
}

export interface LandingAnswer {
  to: string | null
  landing?: string
  back?: boolean
}

/** The path to go to, and why; `to` is null when no landing fits and nothing was refused. */
export function landingOf(landings: readonly Landing[], ask: LandingAsk): LandingAnswer {
  const found = firstFitting(landings, ask)
  const back = ask.refused?.path !== undefined && !found?.always && ask.opens(ask.refused.resource)
  if (back) return { to: ask.refused!.path!, back: true }
  return found ? { to: found.to, landing: found.id } : { to: null }
}

function firstFitting(
  landings: readonly Landing[],
  ask: LandingAsk,
): { id: string; to: string; always: boolean } | undefined {
  for (const landing of landings) {
    if (landing.active === false || landing.on !== ask.on || !ask.admits(landing.for)) continue
    const to = filled(landing.to, ask.asker)
    if (mayLead(to, ask.leadsTo)) return { id: landing.id, to, always: landing.always === true }
  }
  return undefined
}

function filled(path: string, asker: Asker): string {
  const highest = [...asker.levels.keys()].sort(
    (a, b) => (asker.holdings.ranks.get(b) ?? 0) - (asker.holdings.ranks.get(a) ?? 0),
  )[0]
  const values: Record<string, string | undefined> = {
    name: asker.visitor.person?.name,
    id: asker.visitor.person?.id,
    level: highest,
  }
  return path.replace(/\{(name|id|level)\}/g, (_, key: string) => percentEncoded(values[key] ?? ''))
}

/** All but RFC 3986's unreserved characters, as UTF-8. */
const percentEncoded = (text: string) =>
  encodeURIComponent(text.toWellFormed()).replace(
    /[!'()*]/g,
    char => `%${char.charCodeAt(0).toString(16).toUpperCase()}`,
  )
