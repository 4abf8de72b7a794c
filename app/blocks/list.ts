import type { VersionedThing } from '~~/core/kinds/kinds'
import { kindNames, kindPlurals } from '~~/core/sentences/words'
import { appKinds } from '~/kinds/kinds'
import type { AppBlock } from './app-block'

const kinds = (Object.keys(appKinds) as VersionedThing[]).filter(kind => appKinds[kind].walks)
const holders = ['topic', 'folder', 'category', 'page'] as const

/** Pages lie below one another, and in nothing. */
const holds: Partial<Record<(typeof holders)[number], string>> = { page: 'pages below' }

export const list: AppBlock = {
  name: 'list',
  says: 'Pages, posts or files, as far as the visitor may find them.',
  first: { of: { kind: 'post' } },
  fields: [
    {
      key: 'of',
      label: 'Lists',
      type: 'choice',
      options: index => [
        ...kinds.map(kind => ({ value: JSON.stringify({ kind }), label: `all ${kindPlurals[kind].toLowerCase()}` })),
        ...holders.flatMap(kind =>
          [...index.all(kind).values()].map(({ id, title = id }) => ({
            value: JSON.stringify({ [kind]: id }),
            label: holds[kind] ? `${holds[kind]} ${title}` : `the ${kindNames[kind]} ${title}`,
          })),
        ),
      ],
      write: JSON.parse,
      read: JSON.stringify,
    },
    { key: 'most', label: 'At most', type: 'number', hint: '100' },
  ],
}
