import type { VersionedThing } from '~~/core/kinds/kinds'
import { kindNames, kindPlurals } from '~~/core/sentences/words'
import { appKinds } from '~/kinds/kinds'
import type { AppBlock } from './app-block'
import { shownThings, shows } from './shown-things'

const kinds = (Object.keys(appKinds) as VersionedThing[]).filter(kind => appKinds[kind].walks)
const holders = ['topic', 'folder', 'category', 'page'] as const

/** Pages lie below one another, and in nothing. */
const holds: Partial<Record<(typeof holders)[number], string>> = { page: 'pages below' }

export const list: AppBlock = {
  name: 'list',
  says: 'Pages, posts or files, as far as the visitor may find them.',
  first: { of: { kind: 'post' } },
  fields: [
    shownThings('Lists', index => [
      ...kinds.map(kind => shows({ kind }, `all ${kindPlurals[kind].toLowerCase()}`)),
      ...holders.flatMap(kind =>
        [...index.all(kind).values()].map(({ id, title = id }) =>
          shows({ [kind]: id }, holds[kind] ? `${holds[kind]} ${title}` : `the ${kindNames[kind]} ${title}`),
        ),
      ),
    ]),
    { key: 'most', label: 'At most', type: 'number', hint: '100' },
  ],
}
