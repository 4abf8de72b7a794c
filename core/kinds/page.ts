/** A page, which may lie under another: the gates that cover what is below a page are read on the way. */
import { z } from 'zod'
import { key, language } from '../shapes'
import { kindOf, namesOne, titled } from './kind'

const shape = z.strictObject({ ...titled, path: key, parent: key.optional(), language: language.optional() })
export type Page = z.infer<typeof shape>

export const page = kindOf<Page>()({
  parts: { title: 'title', path: 'address', summary: 'summary', parent: 'place', picture: 'summary' },
  list: 'pages',
  shape,
  rights: ['find', 'search', 'open'],
  below: true,
  path: thing => thing.path,
  names: thing => namesOne('page', 'parent', thing.parent, true),
  ways: (thing, look) => {
    const above = look.lineage('page', thing.id).slice(0, -1)
    return above.length ? [above.map(id => ({ on: 'page', id, scope: 'below' }))] : []
  },
})
