/** Levels, roles, permissions, facts, audiences and tiers. */
import { z } from 'zod'
import { condition } from '../conditions/condition'
import { choices, duration, id, label, minor, reference, whole } from '../shapes'
import { factSource } from '../visitor/fact-source'
import { visitor } from '../visitor/visitor'

const named = { id, name: z.string().optional(), note: z.string().optional() }

/** One line of plain text: what a browser would read as markup is read as the characters it is. */
const publicName = z
  .string()
  .max(80, 'A public name has at most 80 characters.')
  .refine(text => text.trim() === text && text !== '', 'A public name says something, without spaces around it.')
  .refine(text => !/\p{Cc}/u.test(text), 'A public name is one line.')
/** What visitors are told it is called, and whether those who hold it are told so. */
const told = { publicName: publicName.optional(), shown: z.boolean().optional() }

export const level = z.strictObject({
  ...named,
  ...told,
  rank: whole,
  price: z.strictObject({ amount: minor, every: z.enum(['month', 'year', 'once']) }).optional(),
  term: duration.optional(),
  onSignUp: z.boolean().optional(),
  roles: z.array(reference).optional(),
})
export type Level = z.infer<typeof level>

export const role = z.strictObject({
  ...named,
  ...told,
  staff: z.boolean().optional(),
  permissions: z.array(reference).optional(),
})
export type Role = z.infer<typeof role>

export const permission = z.strictObject(named)
export const fact = z.strictObject({
  ...named,
  type: z.enum(['flag', 'number', 'text', 'choice', 'date', 'vatNumber']),
  choices: choices(label).optional(),
  /** Where it comes from. Default: the person's profile. */
  from: factSource.optional(),
})
export type Fact = z.infer<typeof fact>

export const audience = z.strictObject({ ...named, is: condition })
export type Audience = z.infer<typeof audience>

/** `thread`: the colour it is drawn in. Default: by what it stands for. */
export const tier = z.strictObject({
  ...named,
  visitor,
  thread: z
    .string()
    .regex(/^#[0-9a-f]{6}$/, 'A colour such as #2f7f8f.')
    .optional(),
})
export type Tier = z.infer<typeof tier>
