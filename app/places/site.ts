import { defineAsyncComponent } from 'vue'
import { thingStaffKinds } from '~~/core/staff/thing-kind'
import { mayLook, tabbed } from './place'

export const site = tabbed({
  label: 'Site',
  path: '/loft/site',
  tabs: [
    {
      key: 'content',
      label: 'Content',
      may: loft => thingStaffKinds.some(kind => loft.may(kind, 'look')),
      component: defineAsyncComponent(() => import('~/components/loft/Content.vue')),
      whole: true,
    },
    {
      key: 'walk',
      label: 'Walk',
      may: mayLook('gates'),
      component: defineAsyncComponent(() => import('~/components/loft/Walk.vue')),
      whole: true,
    },
  ],
})
