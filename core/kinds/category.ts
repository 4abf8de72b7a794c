/** A category of goods, in a tree; a thing of its own, and what products lie in. */
import { z } from 'zod'
import { key } from '../shapes'
import { kindOf, namesOne, titled } from './kind'
import type { Place } from './kind'

const shape = z.strictObject({ ...titled, parent: key.optional(), path: key.optional() })
export type Category = z.infer<typeof shape>

export const category = kindOf<Category>()({
  parts: { title: 'title', path: 'address', summary: 'summary', parent: 'place', picture: 'summary' },
  list: 'categories',
  shape,
  rights: ['find', 'search', 'open'],
  holds: ['product'],
  path: thing => thing.path,
  names: thing => namesOne('category', 'parent', thing.parent, true),
  ways: (thing, look) => {
    const above = look.lineage('category', thing.id).slice(0, -1)
    return above.length ? [above.map((id): Place => ({ on: 'category', id }))] : []
  },
})
