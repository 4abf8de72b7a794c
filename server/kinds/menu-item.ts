/** Menus and their items. */
import { z } from 'zod'
import { whenRefused } from '../../core/kinds/menu-item'
import { target } from '../../core/kinds/target'
import { id, title } from './server-kind'
import type { ServerKind } from './server-kind'

export const menu = {
  input: z.strictObject({ title, whenRefused: whenRefused.optional() }),
  takesAlong: ['menuItem'],
} as const satisfies ServerKind

export const menuItem = {
  input: z.strictObject({
    menu: id,
    label: z.string().min(1).max(200),
    labelIn: z.string().min(1).max(200).optional(),
    to: target.optional(),
    under: id.optional(),
    follow: z.boolean().optional(),
    whenRefused: whenRefused.optional(),
  }),
  takesAlong: ['menuItem'],
} as const satisfies ServerKind
