/** Gates: who is admitted to a thing, and what the others get. */
import { mostPatternLength } from '../site/path-pattern'
import { z } from 'zod'
import { condition } from '../conditions/condition'
import { belowScopes, kinds, scopes } from '../kinds/kinds'
import type { Kind, ScopeKey } from '../kinds/kinds'
import { id, isObject, label, oneOfKeys, reference, report, shape, sitePath, within } from '../shapes'
import { lead } from './lead'

const scopeShapes: Record<string, z.ZodType> = {
  everything: z.literal(true),
  kind: z.enum(kinds),
  path: shape<string>(sink => {
    if (typeof sink.value !== 'string' || !sink.value.startsWith('/'))
      report(sink, 'bad-value', [], 'A path pattern such as /trade/**.')
    else if (sink.value.length > mostPatternLength)
      report(sink, 'bad-value', [], `A path pattern has at most ${mostPatternLength} characters.`)
  }),
  ...Object.fromEntries(Object.keys(scopes).map(key => [key, reference])),
}

/** Where a gate stands: one key, and `below` where what lies below is covered too. */
export type Scope =
  | { everything: true }
  | { kind: Kind }
  | { path: string }
  | ({ [K in ScopeKey]: { [P in K]: string } }[ScopeKey] & { below?: boolean })

const scope: z.ZodType<Scope> = oneOfKeys<Scope>(
  () => scopeShapes,
  (key): Record<string, z.ZodType> => (belowScopes.has(key) ? { below: z.boolean() } : {}),
)

/** A link in a notice: a page of the site, or a web address. */
const link = shape<string>(sink => {
  if (typeof sink.value !== 'string') return report(sink, 'bad-value')
  if (/^https?:\/\/[^\s]+$/i.test(sink.value)) return
  within(sink, sitePath, sink.value, [])
})

/** `words`: what the link is called. Default: as the site says it. */
const notice = z.strictObject({ text: label, link: link.optional(), words: label.optional() })
export type Notice = z.infer<typeof notice>

/** What a dimmed part may keep of itself, besides its shape. */
export const dimmedParts = ['heading', 'words', 'label', 'picture', 'sight'] as const
export type DimmedPart = (typeof dimmedParts)[number]

const treatmentKinds: Record<string, z.ZodType> = {
  absent: z.literal(true),
  teaser: z.literal(true),
  notice,
  dimmed: z.union([z.literal(true), z.strictObject({ keep: z.array(z.enum(dimmedParts)).min(1) })]),
  swap: z.strictObject({ block: reference }),
  redirect: z.strictObject({ to: lead }),
}
export type Treatment =
  | { absent: true }
  | { teaser: true }
  | { notice: Notice }
  | { dimmed: true | { keep: DimmedPart[] } }
  | { swap: { block: string } }
  | { redirect: { to: string } }
const treatment: z.ZodType<Treatment> = oneOfKeys<Treatment>(() => treatmentKinds)

export type Otherwise = Treatment | { guest?: Treatment; signedIn?: Treatment }
export const otherwise: z.ZodType<Otherwise> = shape<Otherwise>(sink => {
  const byState = isObject(sink.value) && ('guest' in sink.value || 'signedIn' in sink.value)
  const schema = byState ? z.strictObject({ guest: treatment.optional(), signedIn: treatment.optional() }) : treatment
  within(sink, schema, sink.value, [])
})

export const gate = z.strictObject({
  id,
  name: z.string().optional(),
  note: z.string().optional(),
  active: z.boolean().optional(),
  on: scope,
  open: condition.optional(),
  find: condition.optional(),
  search: condition.optional(),
  price: condition.optional(),
  take: condition.optional(),
  inherit: z.boolean().optional(),
  otherwise: otherwise.optional(),
  takeNotice: notice.optional(),
})
export type Gate = z.infer<typeof gate>

/** Whether a gate says anything: a right or an otherwise, at least. */
export const statesSomething = (entry: object) =>
  ['open', 'find', 'search', 'price', 'take', 'otherwise'].some(key => key in entry)
