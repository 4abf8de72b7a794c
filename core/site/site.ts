/** What a site holds, as far as rules can see it: the inventory that decisions are made over. */
import { z } from 'zod'
import { holderModules, kindModules } from '../kinds/kinds'
import { key } from '../shapes'

type Modules = typeof kindModules & typeof holderModules
type Listed = { [K in keyof Modules as Modules[K] extends { list: infer L extends string } ? L : never]: K }
/** The lists of a site, by the names the modules give them. */
type ListShapes = {
  [L in keyof Listed]: Modules[Listed[L]] extends { shape: infer S extends z.ZodType }
    ? z.ZodOptional<z.ZodArray<S>>
    : never
}

const modules = Object.values({ ...kindModules, ...holderModules })
const lists = Object.fromEntries(
  modules.flatMap(one => ('list' in one ? [[one.list, z.array(one.shape as z.ZodType).optional()]] : [])),
) as unknown as ListShapes

export const siteSchema = z.strictObject({
  name: z.string().optional(),
  timezone: z.string(),
  currency: z.string(),
  locale: z.string().optional(),
  ...lists,
})
export type Site = z.infer<typeof siteSchema>

/** One row of a register, as case files list them: they come into a decision with the question. */
export const siteRecord = z.strictObject({
  id: key,
  title: z.string().optional(),
  register: key,
  owner: key.nullable().optional(),
  values: z.record(z.string(), z.unknown()).optional(),
})

export const emptySite: Site = { timezone: 'UTC', currency: 'EUR' }
