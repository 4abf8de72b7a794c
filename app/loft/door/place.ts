import { mayLook, tab, tabbed } from '~/loft/core/place'

/** How people come in, where they go, and what the site says to them. */
export const door = tabbed({
  label: 'Door',
  called: 'sign-up sign up signing in landings approval registration',
  path: '/loft/door',
  tabs: [
    tab('ways', 'Ways in and out', () => import('./ways/Ways.vue'), {
      may: loft =>
        loft.may('settings-sign-up', 'look') || loft.may('landings', 'look') || loft.mayEntry('settings', 'change'),
      whole: true,
    }),
    tab('words', 'What the site says', () => import('./WordsOfSite.vue'), {
      called: 'words languages translations labels',
      may: mayLook('settings-words'),
      holds: 'once',
    }),
    tab('look', 'Look', () => import('./LookOfSite.vue'), { may: mayLook('settings-look'), holds: 'once' }),
    tab('site', 'About the site', () => import('./SiteIdentity.vue'), {
      may: loft =>
        ['settings-site', 'settings-payment', 'settings-activity'].some(kind =>
          loft.may(kind as 'settings-site', 'look'),
        ),
      holds: 'once',
    }),
    tab('seller', 'Who sells', () => import('./WhoSells.vue'), {
      called: 'invoice imprint legal name vat number register seller company',
      may: mayLook('settings-seller'),
      holds: 'once',
    }),
    tab('files', 'Files', () => import('./FilesSettings.vue'), { may: mayLook('settings-files'), holds: 'once' }),
    tab('mail', 'Mail', () => import('./Mail.vue'), {
      may: loft => loft.may('mail-texts', 'look') || loft.may('settings-mail', 'look'),
      holds: 'once',
    }),
  ],
})
