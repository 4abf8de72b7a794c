/** A file to fetch, in folders. */
import { z } from 'zod'
import { key } from '../shapes'
import { holderOf, kindOf, namesOne, titled, written } from './kind'
import type { Place } from './kind'

const folderShape = z.strictObject({ ...titled, parent: key.optional() })
export const folder = holderOf<z.infer<typeof folderShape>>()({
  parts: { title: 'title', parent: 'folder' },
  list: 'folders',
  shape: folderShape,
  gated: true,
  holds: ['download'],
  names: thing => namesOne('folder', 'parent', thing.parent, true),
})

const shape = z.strictObject({ ...titled, ...written, path: key.optional(), folder: key.optional() })
export type Download = z.infer<typeof shape>

export const download = kindOf<Download>()({
  parts: {
    passages: 'body',
    broken: 'body',
    title: 'title',
    path: 'address',
    summary: 'summary',
    words: 'body',
    folder: 'folder',
    file: 'file',
    fileName: 'file',
  },
  list: 'downloads',
  shape,
  rights: ['find', 'search', 'open', 'take'],
  path: thing => thing.path,
  names: thing => namesOne('folder', 'folder', thing.folder),
  ways: (thing, look) => {
    const way = look.lineage('folder', thing.folder ?? '').map((id): Place => ({ on: 'folder', id }))
    return way.length ? [way] : []
  },
})
