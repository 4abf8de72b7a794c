import { mayLook, tab, tabbed, waiting } from '~/loft/core/place'

/** Persons: who there is, who waits, who buys together. */
export const people = tabbed({
  label: 'People',
  path: '/loft/people',
  count: waiting,
  also: ['/loft/groups/firm'],
  tabs: [
    tab('people', 'Persons', () => import('./PeopleList.vue'), { may: mayLook('people'), holds: 'once' }),
    tab('queues', 'Queues', () => import('./Queues.vue'), {
      may: loft => loft.may('people', 'look', ['standing']),
      count: waiting,
      holds: 'once',
    }),
    tab('firms', 'Firms', () => import('./Firms.vue'), { may: mayLook('firms'), holds: 'once' }),
  ],
})
