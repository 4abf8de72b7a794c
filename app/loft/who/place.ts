import { mayLook, tab, tabbed } from '~/loft/core/place'

/** Whom rules can name. */
export const who = tabbed({
  label: 'Who',
  path: '/loft/who',
  also: ['/loft/groups/level', '/loft/groups/role'],
  tabs: [
    tab('visitors', 'Visitors', () => import('./loom/Who.vue'), {
      may: loft => loft.may('levels', 'look') || loft.may('roles', 'look') || loft.may('gates', 'look'),
      whole: true,
    }),
    tab('facts', 'Facts', () => import('./Facts.vue'), { may: mayLook('settings-sign-up'), holds: 'next' }),
    tab('staff', 'Staff roles', () => import('./StaffTable.vue'), { may: mayLook('staff') }),
  ],
})
