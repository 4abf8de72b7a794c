import type { ActivityKind } from '~~/core/activity-kinds'

/** What somebody did, in words that follow their name and come before the thing; and many of it. */
export const activityWords: Record<ActivityKind, { did: string; many: string }> = {
  view: { did: 'saw', many: 'pages seen' },
  refused: { did: 'was refused at', many: 'refusals' },
  signIn: { did: 'signed in', many: 'sign-ins' },
  signInFailed: { did: 'failed to sign in', many: 'failed sign-ins' },
  came: { did: 'came to sign up', many: 'visits of the sign-up form' },
  stopped: { did: 'was told what is wrong on signing up', many: 'sign-ups that did not go through' },
  signUp: { did: 'signed up', many: 'sign-ups' },
  member: { did: 'became a member', many: 'new members' },
  click: { did: 'followed', many: 'marked links followed' },
  purchase: { did: 'bought', many: 'purchases' },
  download: { did: 'took', many: 'downloads' },
  staff: { did: 'changed', many: 'staff changes' },
}
