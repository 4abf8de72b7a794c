import { defineAsyncComponent } from 'vue'
import { mayLook, waiting } from './place'
import type { Place, Tab } from './place'

const EntryList = defineAsyncComponent(() => import('~/components/loft/EntryList.vue'))
/** A tab of rule entries of one sort. */
const rules = (key: string, label: string, may: Tab['may']): Tab => ({
  key,
  label,
  may,
  component: EntryList,
  props: { sort: key },
  holds: 'next',
})

export const people: Place = {
  label: 'People',
  path: '/loft/people',
  may: loft => people.tabs!.some(tab => tab.may(loft)),
  count: waiting,
  also: ['/loft/roles'],
  tabs: [
    {
      key: 'people',
      label: 'People',
      may: mayLook('people'),
      component: defineAsyncComponent(() => import('~/components/loft/PeopleList.vue')),
      holds: 'once',
    },
    {
      key: 'queues',
      label: 'Queues',
      may: mayLook('people'),
      count: waiting,
      component: defineAsyncComponent(() => import('~/components/loft/Queues.vue')),
      holds: 'once',
    },
    {
      key: 'firms',
      label: 'Firms',
      may: mayLook('firms'),
      component: defineAsyncComponent(() => import('~/components/loft/Firms.vue')),
      holds: 'once',
    },
    rules('levels', 'Levels', mayLook('levels')),
    rules('roles', 'Roles', mayLook('roles')),
    {
      key: 'staff',
      label: 'Staff',
      may: mayLook('staff'),
      component: defineAsyncComponent(() => import('~/components/loft/StaffTable.vue')),
      holds: 'once',
    },
    rules('audiences', 'Audiences', mayLook('gates')),
    rules('tiers', 'Tiers', mayLook('gates')),
    {
      key: 'landings',
      label: 'Landings',
      may: mayLook('landings'),
      component: defineAsyncComponent(() => import('~/components/loft/Landings.vue')),
      holds: 'next',
    },
    {
      key: 'sign-up',
      label: 'Sign-up',
      may: mayLook('settings-sign-up'),
      component: defineAsyncComponent(() => import('~/components/loft/SignUpSettings.vue')),
      holds: 'once',
    },
    {
      key: 'site',
      label: 'Site',
      may: mayLook('settings-site'),
      component: defineAsyncComponent(() => import('~/components/loft/SiteIdentity.vue')),
      holds: 'once',
    },
    {
      key: 'mail',
      label: 'Mail',
      may: loft => loft.may('mail-texts', 'look') || loft.may('settings-mail', 'look'),
      component: defineAsyncComponent(() => import('~/components/loft/Mail.vue')),
      holds: 'once',
    },
  ],
}
