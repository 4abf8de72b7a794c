import type { Condition } from '~~/core/conditions/condition'
import { isEntryKind } from '~~/core/editions/contents'
import type { Gate } from '~~/core/rulebook/gate'
import type { Landing, LandingMoment } from '~~/core/rulebook/rulebook'
import type { Offer } from '~~/core/rulebook/shop-rules'
import type { Lexicon } from '~~/core/sentences/lexicon'
import { sayGate, sayText } from '~~/core/sentences/say'
import { sayOffer } from '~~/core/sentences/say-offer'
import { sayDelivery } from '~~/core/sentences/say-delivery'
import { sayRate, sayTax, sayTaxSettings, sayTerm } from '~~/core/sentences/say-tax'
import type { Term } from '~~/core/sentences/say-tax'
import type { GoodsEntry, ShownEntry } from '~~/core/tax/compiled-tax'
import type { Exception } from '~~/core/tax/terms'
import type { DraftChange } from '~/loft/core/loft-api'

const momentWords: Record<LandingMoment, string> = {
  signIn: 'Signing in',
  signUp: 'Signing up',
  signOut: 'Signing out',
}
type Body = {
  name?: string
  note?: string
  remark?: string
  title?: string
  label?: string
  id?: string
  path?: string
}

const saidTerm = (term: Term, lexicon: Lexicon) =>
  `${term.one.active === false ? 'Switched off: ' : ''}${sayText(term.one.for, lexicon)} ${sayTerm(term, lexicon)}`

const saysByKind: Record<string, (body: never, lexicon: Lexicon) => string> = {
  landing: (body: Landing, lexicon) =>
    `${body.active === false ? 'Switched off: ' : ''}${momentWords[body.on]}: ${sayText(body.for, lexicon)} → ${body.to}`,
  offer: (body: Offer, lexicon) => `${body.active === false ? 'Switched off: ' : ''}${sayOffer(body, lexicon)}`,
  exception: (one: Exception, lexicon) => saidTerm({ kind: 'exception', one }, lexicon),
  goods: (one: GoodsEntry, lexicon) => saidTerm({ kind: 'goods', one }, lexicon),
  shown: (one: ShownEntry, lexicon) => saidTerm({ kind: 'shown', one }, lexicon),
  rate: sayRate,
  tax: sayTax,
  'tax-settings': sayTaxSettings,
  delivery: sayDelivery,
  gate: (body: Gate, lexicon) => {
    const said = sayGate(body, lexicon)
    const otherwise = said.otherwise && [...new Set(Object.values(said.otherwise))].join(', or ')
    return [
      ...(body.active === false ? ['Switched off:'] : []),
      ...said.rights.map(right => `${right.lead} ${right.tokens.map(token => token.text).join(' ')}.`),
      ...(otherwise ? [`Otherwise: ${otherwise}.`] : []),
      ...(body.inherit === false ? ['Instead of what is further out.'] : []),
    ].join(' ')
  },
}

/** What an entry or a thing says, in a line. */
export function worded(kind: string, body: unknown, lexicon: Lexicon): string {
  if (body === null) return 'nothing'
  const says = Object.hasOwn(saysByKind, kind) ? saysByKind[kind] : undefined
  if (says) return says(body as never, lexicon)
  const { name, title, label, id, path } = body as Body
  return [name ?? title ?? label ?? id ?? 'settings', path].filter(Boolean).join(' · ')
}

/** What an entry or a thing says, part by part, for comparing: rules as their sentences. */
export function parted(kind: string, body: Record<string, unknown> | null, lexicon: Lexicon) {
  if (body === null) return null
  const { name, note, remark } = body as Body
  if (Object.hasOwn(saysByKind, kind))
    return {
      ...(name ? { name } : {}),
      says: worded(kind, body, lexicon),
      ...(note ? { note } : {}),
      ...(remark ? { remark } : {}),
    }
  if (kind !== 'audience') return body
  return { ...(name ? { name } : {}), says: sayText((body as { is: Condition }).is, lexicon) }
}

/** Where the operator works on it: what changes are ticked by. */
export const changePlace = ({ kind }: Pick<DraftChange, 'kind'>): string => (isEntryKind(kind) ? 'Rules' : 'Content')
