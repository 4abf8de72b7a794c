import { defineAsyncComponent } from 'vue'
import { mayLook, tabbed } from '~/loft/core/place'

/** How people come in, where they go, and what the site says to them. */
export const door = tabbed({
  label: 'Door',
  path: '/loft/door',
  tabs: [
    {
      key: 'sign-up',
      label: 'Sign-up',
      may: mayLook('settings-sign-up'),
      component: defineAsyncComponent(() => import('./SignUpSettings.vue')),
      holds: 'once',
    },
    {
      key: 'landings',
      label: 'Landings',
      may: mayLook('landings'),
      component: defineAsyncComponent(() => import('./Landings.vue')),
      holds: 'next',
    },
    {
      key: 'site',
      label: 'About the site',
      may: mayLook('settings-site'),
      component: defineAsyncComponent(() => import('./SiteIdentity.vue')),
      holds: 'once',
    },
    {
      key: 'words',
      label: 'Words',
      may: mayLook('settings-words'),
      component: defineAsyncComponent(() => import('./WordsOfSite.vue')),
      holds: 'once',
    },
    {
      key: 'look',
      label: 'Look',
      may: mayLook('settings-look'),
      component: defineAsyncComponent(() => import('./LookOfSite.vue')),
      holds: 'once',
    },
    {
      key: 'files',
      label: 'Files',
      may: mayLook('settings-files'),
      component: defineAsyncComponent(() => import('./FilesSettings.vue')),
      holds: 'once',
    },
    {
      key: 'mail',
      label: 'Mail',
      may: loft => loft.may('mail-texts', 'look') || loft.may('settings-mail', 'look'),
      component: defineAsyncComponent(() => import('./Mail.vue')),
      holds: 'once',
    },
  ],
})
