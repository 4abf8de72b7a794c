/** What somebody sees at each station of the way in and out: pages of the application's own, mails, where they land. */
import { defineAsyncComponent } from 'vue'
import type { Component } from 'vue'
import type { LandingMoment } from '~~/core/rulebook/rulebook'
import type { StationKey } from '../kit/door'

export type SeenAt =
  | { key: string; label: string; path: string; page: Component; data: object; asks?: true }
  | { key: string; label: string; mail: string }
  | { key: string; label: string; landing: LandingMoment }
  | { key: string; label: string; refused: true }

const pages = {
  signUp: defineAsyncComponent(() => import('~/pages/sign-up.vue')),
  signedUp: defineAsyncComponent(() => import('~/pages/signed-up.vue')),
  confirm: defineAsyncComponent(() => import('~/pages/confirm.vue')),
  signIn: defineAsyncComponent(() => import('~/pages/sign-in.vue')),
  forgot: defineAsyncComponent(() => import('~/pages/forgot.vue')),
  reset: defineAsyncComponent(() => import('~/pages/reset.vue')),
}
const link = { token: '', works: true }

export interface SeenWorld {
  /** What the form for signing up is made with. */ form: object
  confirms: boolean
  looks: boolean
}

const signUp = ({ form }: SeenWorld): SeenAt => ({
  key: 'form',
  label: 'the form',
  path: '/sign-up',
  page: pages.signUp,
  data: { ...form, invitation: null, brokenInvitation: false },
  asks: true,
})
const signedUp = (key: string, label: string, then: string): SeenAt => ({
  key,
  label,
  path: '/signed-up',
  page: pages.signedUp,
  data: { then },
})

/** In the order in which they are seen. */
export const seenAt: Record<StationKey, (world: SeenWorld) => SeenAt[]> = {
  came: world => [signUp(world)],
  filled: world => [signUp(world)],
  confirmed: ({ confirms }) =>
    confirms
      ? [
          { key: 'mail', label: 'the mail', mail: 'confirm' },
          signedUp('sent', 'the page after sending', 'look-in-mail'),
          { key: 'link', label: 'behind its link', path: '/confirm', page: pages.confirm, data: link },
          { key: 'known', label: 'if the address is known', mail: 'known-address' },
        ]
      : [signedUp('sent', 'the page after sending', 'can-sign-in')],
  letIn: ({ looks }) => [
    ...(looks
      ? [
          signedUp('waits', 'while they wait', 'waiting'),
          { key: 'waiting', label: 'the mail meanwhile', mail: 'waiting' },
        ]
      : []),
    { key: 'welcome', label: 'let in', mail: 'welcome' },
    ...(looks ? [{ key: 'declined', label: 'declined', mail: 'declined' }] : []),
  ],
  start: () => [{ key: 'landing', label: 'where they land', landing: 'signUp' }],
  back: () => [
    { key: 'form', label: 'the form', path: '/sign-in', page: pages.signIn, data: {} },
    { key: 'landing', label: 'where they land', landing: 'signIn' },
    { key: 'forgot', label: 'forgot the password', path: '/forgot', page: pages.forgot, data: { asked: false } },
    { key: 'reset', label: 'the mail', mail: 'reset' },
    { key: 'link', label: 'behind its link', path: '/reset', page: pages.reset, data: link },
  ],
  refused: () => [{ key: 'refused', label: 'what they get', refused: true }],
  leaving: () => [{ key: 'landing', label: 'where they land', landing: 'signOut' }],
}
