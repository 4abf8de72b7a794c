import { defineAsyncComponent } from 'vue'
import { mayLook } from './place'
import type { Place } from './place'

export const activity: Place = {
  label: 'Activity',
  path: '/loft/activity',
  may: mayLook('activity'),
  tabs: [
    {
      key: 'visitors',
      label: 'Visitors',
      may: mayLook('activity'),
      component: defineAsyncComponent(() => import('~/components/loft/VisitorActivity.vue')),
    },
    {
      key: 'changes',
      label: 'Changes',
      may: mayLook('activity'),
      component: defineAsyncComponent(() => import('~/components/loft/Trace.vue')),
    },
  ],
}
