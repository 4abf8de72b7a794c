import { defineAsyncComponent } from 'vue'
import { mayLook, tabbed, waiting } from '~/loft/core/place'

/** Persons: who there is, who waits, who buys together. */
export const people = tabbed({
  label: 'People',
  path: '/loft/people',
  count: waiting,
  also: ['/loft/groups/firm'],
  tabs: [
    {
      key: 'people',
      label: 'Persons',
      may: mayLook('people'),
      component: defineAsyncComponent(() => import('./PeopleList.vue')),
      holds: 'once',
    },
    {
      key: 'queues',
      label: 'Queues',
      may: loft => loft.may('people', 'look', ['standing']),
      count: waiting,
      component: defineAsyncComponent(() => import('./Queues.vue')),
      holds: 'once',
    },
    {
      key: 'firms',
      label: 'Firms',
      may: mayLook('firms'),
      component: defineAsyncComponent(() => import('./Firms.vue')),
      holds: 'once',
    },
  ],
})
