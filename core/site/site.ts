/** What a site holds, as far as rules can see it: the inventory that decisions are made over. */
import { z } from 'zod'
import { kinds } from '../rulebook/kinds'
import type { Kind } from '../rulebook/kinds'
import { oneOfKeys } from '../rulebook/shapes'

const key = z.string().min(1)
/** Titles serve screens; no rule looks at them. */
const titled = { id: key, title: z.string().optional() }
const sale = z.strictObject({ price: z.int(), from: z.string().optional(), until: z.string().optional() })

export type Target = { url: string } | Partial<Record<Kind, string>>
const target = oneOfKeys<Target>(() => Object.fromEntries([...kinds, 'url'].map(kind => [kind, z.string()])))

const frames = ['header', 'banner', 'footer'] as const
export type FramePart = (typeof frames)[number]
export type Standing = { page: string } | { post: string } | { block: string } | { frame: FramePart }
const standing = z.union([
  z.strictObject({ page: key }),
  z.strictObject({ post: key }),
  z.strictObject({ block: key }),
  z.strictObject({ frame: z.enum(frames) }),
])

export const whenRefused = z.enum(['hide', 'locked', 'show'])
const menuItem = z.strictObject({
  id: key,
  label: z.string(),
  to: target.optional(),
  under: key.optional(),
  follow: z.boolean().optional(),
  whenRefused: whenRefused.optional(),
})
export type MenuItem = z.infer<typeof menuItem>

export const siteSchema = z.strictObject({
  name: z.string().optional(),
  timezone: z.string(),
  currency: z.string(),
  locale: z.string().optional(),
  pages: z.array(z.strictObject({ ...titled, path: key, parent: key.optional() })).optional(),
  topics: z.array(z.strictObject(titled)).optional(),
  posts: z.array(z.strictObject({ ...titled, path: key, topics: z.array(key).optional() })).optional(),
  blocks: z
    .array(z.strictObject({ ...titled, in: standing, oneOf: z.boolean().optional(), kind: z.string().optional() }))
    .optional(),
  categories: z.array(z.strictObject({ ...titled, parent: key.optional(), path: key.optional() })).optional(),
  products: z
    .array(
      z.strictObject({
        ...titled,
        of: key.optional(),
        path: key.optional(),
        categories: z.array(key).optional(),
        price: z.int().optional(),
        sale: sale.optional(),
        taxCategory: z.string().optional(),
        goodsTaxed: z.boolean().optional(),
        deliveryTaxed: z.boolean().optional(),
      }),
    )
    .optional(),
  folders: z.array(z.strictObject({ ...titled, parent: key.optional() })).optional(),
  downloads: z.array(z.strictObject({ ...titled, path: key.optional(), folder: key.optional() })).optional(),
  routes: z.array(key).optional(),
  menus: z
    .array(z.strictObject({ ...titled, items: z.array(menuItem), whenRefused: whenRefused.optional() }))
    .optional(),
  registers: z
    .array(z.strictObject({ ...titled, fields: z.array(z.strictObject({ ...titled, type: z.string() })).optional() }))
    .optional(),
  records: z
    .array(
      z.strictObject({
        ...titled,
        register: key,
        owner: key.nullable().optional(),
        values: z.record(z.string(), z.unknown()).optional(),
      }),
    )
    .optional(),
})
export type Site = z.infer<typeof siteSchema>
export type SiteRecord = NonNullable<Site['records']>[number]
export type Menu = NonNullable<Site['menus']>[number]

export const emptySite: Site = { timezone: 'UTC', currency: 'EUR' }
