import { defineAsyncComponent } from 'vue'
import { mayLook, tabbed } from './place'

export const activity = tabbed({
  label: 'Activity',
  path: '/loft/activity',
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
})
