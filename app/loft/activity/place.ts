import { defineAsyncComponent } from 'vue'
import { mayLook, tabbed } from '~/loft/core/place'

export const activity = tabbed({
  label: 'Activity',
  path: '/loft/activity',
  tabs: [
    {
      key: 'visitors',
      label: 'Visitors',
      may: mayLook('activity'),
      component: defineAsyncComponent(() => import('./VisitorActivity.vue')),
    },
    {
      key: 'changes',
      label: 'Changes',
      may: mayLook('activity'),
      component: defineAsyncComponent(() => import('./Trace.vue')),
    },
  ],
})
