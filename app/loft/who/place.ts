import { defineAsyncComponent } from 'vue'
import { mayLook, tabbed } from '~/loft/core/place'
import type { Tab } from '~/loft/core/place'

const EntryList = defineAsyncComponent(() => import('./EntryList.vue'))
/** A tab of rule entries of one sort. */
const rules = (key: string, label: string, may: Tab['may']): Tab => ({
  key,
  label,
  may,
  component: EntryList,
  props: { sort: key },
  holds: 'next',
})

/** Whom rules can name. */
export const who = tabbed({
  label: 'Who',
  path: '/loft/who',
  also: ['/loft/groups/level', '/loft/groups/role'],
  tabs: [
    rules('levels', 'Levels', mayLook('levels')),
    rules('roles', 'Visitor roles', mayLook('roles')),
    rules('audiences', 'Audiences', mayLook('gates')),
    rules('tiers', 'Tiers', mayLook('gates')),
    {
      key: 'facts',
      label: 'Facts',
      may: mayLook('settings-sign-up'),
      component: defineAsyncComponent(() => import('./Facts.vue')),
      holds: 'next',
    },
    {
      key: 'staff',
      label: 'Staff roles',
      may: mayLook('staff'),
      component: defineAsyncComponent(() => import('./StaffTable.vue')),
      holds: 'once',
    },
  ],
})
