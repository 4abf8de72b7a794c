/** A service route, `GET /orders`: shut until a gate opens it. */
import { key } from '../shapes'
import { kindOf } from './kind'
import type { Lists } from './kind'

export interface Route {
  id: string
}

export const route = kindOf<Route>()({
  list: 'routes',
  shape: key,
  rights: ['find', 'search', 'open'],
  closed: true,
  all: (lists: Lists) => ((lists.routes ?? []) as string[]).map(id => ({ id })),
  path: ({ id }) => id.slice(id.indexOf(' ') + 1),
})
