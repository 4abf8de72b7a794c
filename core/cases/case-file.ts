/** Case files, `{"bravik":"case/1", …}`: a rulebook, a site, visitors, and what each is expected to get. */
import { z } from 'zod'
import { condition } from '../conditions/condition'
import { frameParts, ownShown } from '../kinds/block'
import { kinds } from '../kinds/kinds'
import { siteRecord, siteSchema } from '../site/site'
import { oneOfKeys, shape, within } from '../shapes'
import { visitor } from '../visitor/visitor'
import type { Condition } from '../conditions/condition'
import type { Kind, Resource, SiteRecord } from '../kinds/kinds'

type ResourceAsk = Partial<Record<Kind, string>> & { record?: string }
const resourceKinds = Object.fromEntries(kinds.map(kind => [kind, z.string()]))
/** `{KIND: id}`; a field also names its record. */
const resource: z.ZodType<ResourceAsk> = shape<ResourceAsk>(sink => {
  const value = sink.value as ResourceAsk | null
  if (value && typeof value === 'object' && 'field' in value)
    return within(sink, z.strictObject({ field: z.string(), record: z.string().optional() }), value, [])
  within(
    sink,
    oneOfKeys(() => resourceKinds),
    value,
    [],
  )
})

const address = z.strictObject({ country: z.string(), region: z.string().optional(), postcode: z.string().optional() })
const ask = z.union([
  z.strictObject({ condition }),
  z.strictObject({ resource, query: z.record(z.string(), z.string()).optional() }),
  z.strictObject({ shows: z.string() }),
  z.strictObject({
    price: z.strictObject({ product: z.string() }),
    codes: z.array(z.string()).optional(),
    shipTo: address.optional(),
  }),
  z.strictObject({
    basket: z.strictObject({
      lines: z.array(z.strictObject({ product: z.string(), quantity: z.int() })),
      shipTo: address.optional(),
      delivery: z.int().optional(),
      codes: z.array(z.string()).optional(),
    }),
  }),
  z.strictObject({ landing: z.enum(['signIn', 'signOut', 'signUp']), refused: resource.optional() }),
  z.strictObject({ menu: z.string() }),
  z.strictObject({ address: z.string().startsWith('/') }),
  z.strictObject({ around: z.union([z.strictObject({ own: z.enum(ownShown) }), resource]), frame: z.enum(frameParts) }),
  z.strictObject({ validate: z.literal(true) }),
])
export type Ask = z.infer<typeof ask>

/** A site, and the records questions are asked about. */
export const caseSite = siteSchema.extend({ records: z.array(siteRecord).optional() })

export const caseFile = z.strictObject({
  bravik: z.literal('case/1'),
  rulebook: z.record(z.string(), z.unknown()),
  site: caseSite,
  visitors: z.record(z.string(), visitor),
  cases: z.array(
    z.strictObject({
      name: z.string(),
      visitor: z.string().optional(),
      ask,
      expect: z.record(z.string(), z.unknown()),
      rulebookPatch: z.unknown().optional(),
      sitePatch: z.unknown().optional(),
    }),
  ),
})
export type CaseFile = z.infer<typeof caseFile>
export type Case = CaseFile['cases'][number]

/** What a case asks about; a record, and the one a field is asked for in, is looked up among those of the file. */
export function resourceOf(asked: ResourceAsk, records: readonly SiteRecord[]): Resource {
  // Of a field its record is named beside it.
  const kind = (Object.keys(asked).find(key => key !== 'record') ?? 'record') as Kind
  const named = asked.record === undefined ? undefined : records.find(one => one.id === asked.record)
  return { kind, id: asked[kind]!, ...(named ? { record: named } : {}) }
}

export type { Condition }
