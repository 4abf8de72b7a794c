import { defineAsyncComponent } from 'vue'
import { mayLook, tab, tabbed } from '~/loft/core/place'
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
    tab('facts', 'Facts', () => import('./Facts.vue'), { may: mayLook('settings-sign-up'), holds: 'next' }),
    tab('staff', 'Staff roles', () => import('./StaffTable.vue'), { may: mayLook('staff'), holds: 'once' }),
  ],
})
