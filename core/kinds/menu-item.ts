/** An entry of a menu. What it leads to has gates of its own, which menus ask about themselves. */
import { z } from 'zod'
import { key } from '../shapes'
import { holderOf, kindOf, namesOne, titled } from './kind'
import type { Lists, Naming } from './kind'
import { target, targetPlace, targetThing } from './target'

export const whenRefused = z.enum(['hide', 'locked', 'show'])

const shape = z.strictObject({
  id: key,
  label: z.string(),
  /** What an entry that is the way in and out says to whoever is in. */ labelIn: z.string().optional(),
  // Asked late: the list of kinds names this module, and a target names one of the list.
  to: z.lazy(() => target).optional(),
  under: key.optional(),
  follow: z.boolean().optional(),
  whenRefused: whenRefused.optional(),
})
export type MenuItem = z.infer<typeof shape>

const menuShape = z.strictObject({ ...titled, items: z.array(shape), whenRefused: whenRefused.optional() })
export type Menu = z.infer<typeof menuShape>

/** Menus and their items are kept apart, each with its own versions; the list shows items in their menu. */
const keptItem = shape.extend({ menu: key })
export type KeptMenuItem = z.infer<typeof keptItem>

export const menu = holderOf<Menu>()({
  list: 'menus',
  shape: menuShape,
  kept: menuShape.omit({ items: true }),
  assemble: (menus, of) => {
    const items = of('menuItem') as KeptMenuItem[]
    return (menus as Menu[]).map(one => ({
      ...one,
      items: items.flatMap(({ menu: holder, ...item }) => (holder === one.id ? [item] : [])),
    }))
  },
})

const menusOf = (lists: Lists) => (lists.menus ?? []) as Menu[]

export const menuItem = kindOf<MenuItem>()({
  rights: ['find', 'search', 'open'],
  kept: keptItem,
  all: lists => menusOf(lists).flatMap(one => one.items),
  names: (thing): Naming[] => [
    ...namesOne('menu', 'menu', (thing as KeptMenuItem).menu),
    ...namesOne('menuItem', 'under', thing.under, true),
    ...[targetThing(thing.to) ?? []].flat().map(({ kind, id }) => ({ at: ['to', kind], kind, id, within: false })),
  ],
  // The way in and out is outside the gates: shutting the whole site shuts nobody out of signing in.
  apart: thing => targetPlace(thing.to) === 'entrance',
  seenInMenu: true,
  unnamed: true,
})
