import { mayLook, tab, tabbed } from '~/loft/core/place'

/** How people come in, where they go, and what the site says to them. */
export const door = tabbed({
  label: 'Door',
  path: '/loft/door',
  tabs: [
    tab('sign-up', 'Sign-up', () => import('./SignUpSettings.vue'), {
      may: mayLook('settings-sign-up'),
      holds: 'once',
    }),
    tab('landings', 'Landings', () => import('./Landings.vue'), { may: mayLook('landings'), holds: 'next' }),
    tab('site', 'About the site', () => import('./SiteIdentity.vue'), { may: mayLook('settings-site'), holds: 'once' }),
    tab('words', 'Words', () => import('./WordsOfSite.vue'), { may: mayLook('settings-words'), holds: 'once' }),
    tab('look', 'Look', () => import('./LookOfSite.vue'), { may: mayLook('settings-look'), holds: 'once' }),
    tab('files', 'Files', () => import('./FilesSettings.vue'), { may: mayLook('settings-files'), holds: 'once' }),
    tab('mail', 'Mail', () => import('./Mail.vue'), {
      may: loft => loft.may('mail-texts', 'look') || loft.may('settings-mail', 'look'),
      holds: 'once',
    }),
  ],
})
