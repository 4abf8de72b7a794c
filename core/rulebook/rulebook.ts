/** The whole document, `{"bravik":"rulebook/1", …}`. Every list is optional. */
import { z } from 'zod'
import { condition } from '../conditions/condition'
import { gate, otherwise, statesSomething } from './gate'
import { kinds } from '../kinds/kinds'
import { audience, fact, level, permission, role, tier } from './people-rules'
import { delivery, exception, goods, offer, rate, shown, tax, taxSettings } from './shop-rules'
import { hostAndPort, id, reference, report } from '../shapes'
import { lead } from './lead'

const landing = z.strictObject({
  id,
  name: z.string().optional(),
  note: z.string().optional(),
  active: z.boolean().optional(),
  on: z.enum(['signIn', 'signOut', 'signUp']),
  for: condition,
  to: lead,
  always: z.boolean().optional(),
})
export type Landing = z.infer<typeof landing>
export type LandingMoment = Landing['on']

const settings = z.strictObject({
  masterKeys: z.array(reference).optional(),
  otherwise: z
    .strictObject(
      Object.fromEntries(['any', ...kinds].map(kind => [kind, otherwise.optional()])) as Record<
        'any' | (typeof kinds)[number],
        z.ZodOptional<typeof otherwise>
      >,
    )
    .optional(),
  /** What an address at which nothing stands answers: nothing there, or as a page nobody may find. Default: absent. */
  unknownAddress: z.enum(['absent', 'asPage']).optional(),
  /** Hosts that redirects and landings may lead to. */
  leadsTo: z.array(hostAndPort).optional(),
})

const statingGate = gate.check(sink => {
  if (!statesSomething(sink.value)) report(sink, 'states-nothing')
})

export const rulebookSchema = z.strictObject({
  bravik: z.literal('rulebook/1'),
  levels: z.array(level).optional(),
  roles: z.array(role).optional(),
  permissions: z.array(permission).optional(),
  facts: z.array(fact).optional(),
  audiences: z.array(audience).optional(),
  gates: z.array(statingGate).optional(),
  offers: z.array(offer).optional(),
  deliveries: z.array(delivery).optional(),
  landings: z.array(landing).optional(),
  tiers: z.array(tier).optional(),
  tax: z
    .strictObject({
      settings: taxSettings.optional(),
      taxes: z.array(tax).optional(),
      rates: z.array(rate).optional(),
      exceptions: z.array(exception).optional(),
      goods: z.array(goods).optional(),
      shown: z.array(shown).optional(),
    })
    .optional(),
  settings: settings.optional(),
})
export type Rulebook = z.infer<typeof rulebookSchema>

/**
 * The kinds of entry a rulebook holds, with the schema of one and the place
 * it stands at. Single entries (the two settings) have no id.
 */
export const entryKinds = {
  level: { at: ['levels'], schema: level },
  role: { at: ['roles'], schema: role },
  permission: { at: ['permissions'], schema: permission },
  fact: { at: ['facts'], schema: fact },
  audience: { at: ['audiences'], schema: audience },
  gate: { at: ['gates'], schema: statingGate },
  offer: { at: ['offers'], schema: offer },
  delivery: { at: ['deliveries'], schema: delivery },
  landing: { at: ['landings'], schema: landing },
  tier: { at: ['tiers'], schema: tier },
  tax: { at: ['tax', 'taxes'], schema: tax },
  rate: { at: ['tax', 'rates'], schema: rate },
  exception: { at: ['tax', 'exceptions'], schema: exception },
  goods: { at: ['tax', 'goods'], schema: goods },
  shown: { at: ['tax', 'shown'], schema: shown },
  settings: { at: ['settings'], schema: settings, single: true },
  'tax-settings': { at: ['tax', 'settings'], schema: taxSettings, single: true },
} as const satisfies Record<string, { at: readonly string[]; schema: z.ZodType; single?: true }>
export type EntryKind = keyof typeof entryKinds

export interface RuleEntry {
  kind: EntryKind
  key: string
  body: unknown
}
export const singleKey = 'site'
const isSingle = (kind: EntryKind) => 'single' in entryKinds[kind]

/** Puts entries, in order, into one document. */
export function rulebookOf(entries: Iterable<RuleEntry>): Rulebook {
  const book: Record<string, unknown> = { bravik: 'rulebook/1' }
  for (const { kind, body } of entries) {
    const at = [...entryKinds[kind].at] as string[]
    const last = at.pop()!
    const holder = at.reduce((node, key) => (node[key] ??= {}) as Record<string, unknown>, book)
    if (isSingle(kind)) holder[last] = body
    else ((holder[last] ??= []) as unknown[]).push(body)
  }
  return book as unknown as Rulebook
}

/** Takes a document apart into its entries, in order. */
export function entriesOf(book: Rulebook): RuleEntry[] {
  return (Object.keys(entryKinds) as EntryKind[]).flatMap(kind => {
    const found = entryKinds[kind].at.reduce<unknown>(
      (node, key) => (node as Record<string, unknown> | undefined)?.[key],
      book,
    )
    if (found === undefined) return []
    if (isSingle(kind)) return [{ kind, key: singleKey, body: found }]
    return (found as { id: string }[]).map(body => ({ kind, key: body.id, body }))
  })
}
