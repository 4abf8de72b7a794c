/** What somebody with a new, empty site does first, in the order in which sites are set up. One line for each. */
import { useLocalStorage } from '@vueuse/core'
import type { Loft } from '~/loft/core/place'

export interface FirstStep {
  key: string
  title: string
  /** What is done there, and why. */
  says: string
  to(loft: Loft): string
  /** Whether it is done, be it in the draft. */
  done(loft: Loft, walked: boolean): boolean
}

/** A new site has a front page and a member's home. */
const ownPages = (loft: Loft) =>
  [...loft.index.all('page').values()].filter(page => !['front', 'account'].includes(page.id))
const givesAway = (loft: Loft) =>
  (loft.draft.gates ?? []).filter(gate => gate.active !== false && gate.open && !('everyone' in gate.open))

export const firstSteps: readonly FirstStep[] = [
  {
    key: 'pages',
    title: 'Bring what there is',
    says: 'A site that is elsewhere, from its address or its files, comes into the draft with its pictures and menus. Where there is none, write the first page: nobody sees any before it is published.',
    to: () => '/loft/site?bring=site',
    done: loft => ownPages(loft).length > 0,
  },
  {
    key: 'who',
    title: 'Say who there is',
    says: 'Name a level people can hold, or a role: what they are to you. Rules are about them.',
    to: () => '/loft/who',
    done: ({ draft }) => Boolean(draft.levels?.length || draft.roles?.some(role => !role.staff)),
  },
  {
    key: 'mail',
    title: 'See that mail works',
    says: 'From then on everybody who signs up follows a mailed link first. Before that no address is proven to be theirs.',
    to: () => '/loft/door?tab=mail',
    done: ({ data }) => data?.firstSteps?.mail === true,
  },
  {
    key: 'door',
    title: 'Open the door',
    says: 'Nobody can sign up yet. Say who may, whether you look at each, and what they start with.',
    to: () => '/loft/door',
    done: ({ data }) => data?.firstSteps?.door === true,
  },
  {
    key: 'refused',
    title: 'Say what the refused get',
    says: 'Nothing at all, a teaser, a few words and a way in: for whatever no gate says otherwise.',
    to: () => '/loft?row=everything',
    done: ({ draft }) =>
      Object.keys(draft.settings?.otherwise ?? {}).length > 0 || (draft.gates ?? []).some(gate => gate.otherwise),
  },
  {
    key: 'give',
    title: 'Give a part to somebody',
    says: 'Choose the page below, press + Gate here, and say whom it opens to. The board shows whom that moves.',
    to: loft => `/loft?thing=page:${encodeURIComponent(ownPages(loft)[0]?.id ?? 'front')}&tier=guest`,
    done: loft => givesAway(loft).length > 0,
  },
  {
    key: 'publish',
    title: 'Publish it',
    says: 'Page and gate go live in the same instant; you see before what it moves.',
    to: () => '/loft/editions',
    done: loft => loft.edition > 1 && givesAway(loft).some(gate => loft.base.get('gate', gate.id)),
  },
  {
    key: 'look',
    title: 'Look as each of them',
    says: 'Walk your site as a guest and as a member: your own view, with the master key, proves nothing.',
    to: () => '/loft/site',
    done: (loft, walked) => walked && loft.edition > 1,
  },
]

/** That somebody walked the published site, in this browser. */
export const useWalked = () => useLocalStorage('bravik-walked', false)
