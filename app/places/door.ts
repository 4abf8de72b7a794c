import { defineAsyncComponent } from 'vue'
import { mayLook, tabbed } from './place'

/** How people come in, where they go, and what the site says to them. */
export const door = tabbed({
  label: 'Door',
  path: '/loft/door',
  tabs: [
    {
      key: 'sign-up',
      label: 'Sign-up',
      may: mayLook('settings-sign-up'),
      component: defineAsyncComponent(() => import('~/components/loft/SignUpSettings.vue')),
      holds: 'once',
    },
    {
      key: 'landings',
      label: 'Landings',
      may: mayLook('landings'),
      component: defineAsyncComponent(() => import('~/components/loft/Landings.vue')),
      holds: 'next',
    },
    {
      key: 'site',
      label: 'About the site',
      may: mayLook('settings-site'),
      component: defineAsyncComponent(() => import('~/components/loft/SiteIdentity.vue')),
      holds: 'once',
    },
    {
      key: 'words',
      label: 'Words',
      may: mayLook('settings-words'),
      component: defineAsyncComponent(() => import('~/components/loft/WordsOfSite.vue')),
      holds: 'once',
    },
    {
      key: 'look',
      label: 'Look',
      may: mayLook('settings-look'),
      component: defineAsyncComponent(() => import('~/components/loft/LookOfSite.vue')),
      holds: 'once',
    },
    {
      key: 'files',
      label: 'Files',
      may: mayLook('settings-files'),
      component: defineAsyncComponent(() => import('~/components/loft/FilesSettings.vue')),
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
})
