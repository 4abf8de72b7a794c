/** Actions on the way in: who passed, who waits, and trying it as a stranger. */
import { z } from 'zod'
import { mayStaff } from '../../core/staff/staff-rule'
import { doorCounts } from '../services/entrance/door-counts'
import { invite } from '../services/entrance/sign-up'
import { confirmAgain } from '../services/entrance/unconfirmed'
import { endStranger, makeStranger, readStranger, strangerTold } from '../services/entrance/stranger'
import type { StrangerPass } from '../services/entrance/stranger'
import { mostRefused } from '../services/activity/activity'
import { authorise } from '../services/staff/authorise'
import { change, look, on } from './action'
import type { Ask } from './action'

/** Whoever tries it writes somebody down, if only for a while. */
const tries = on('people', 'add', ['name', 'address'])
/** Nothing has to be said. */
const nothing = z.strictObject({})
const pass = z.strictObject({ pass: z.string().max(2000) })
const strangerIn = ({
  input,
  signedIn,
  nowMs,
}: Pick<Ask<{ pass: string }>, 'input' | 'signedIn' | 'nowMs'>): StrangerPass =>
  readStranger(input.pass, signedIn.sessionId, nowMs)

export const doorActions = {
  'GET door': look({
    right: on('settings-sign-up', 'look'),
    run: async ({ db, rights, nowMs, snapshot: { rules, settings } }) => {
      const looks = (kind: 'activity' | 'people') => mayStaff(rights, { kind, action: 'look' }).allowed
      const counts = await doorCounts(db, { rules, nowMs }, settings['sign-up'].lookAt)
      return { ...counts, refused: looks('activity') ? await mostRefused(db, counts.days) : null }
    },
  }),
  /** Mails their link again to all who have not confirmed their address and were sent none within the hour. */
  'POST door/confirm-again': change({
    right: on('people', 'change', ['standing']),
    input: nothing,
    run: ({ db, actor }) => confirmAgain(db, actor),
  }),
  /** A stranger to walk in as, for half an hour; where only the invited come in, with an invitation. */
  'POST door/stranger': change({
    right: tries,
    input: nothing,
    run: async ({ db, signedIn, nowMs, snapshot: { settings }, actor, rights }) => {
      authorise(rights, { kind: 'settings-sign-up', action: 'look' })
      const made = makeStranger(signedIn.sessionId, nowMs)
      const isInvited = settings['sign-up'].mode === 'invitation'
      if (isInvited) await invite(db, { email: made.email, levels: [], roles: [] }, actor)
      return { ...made, isInvited, base: `/walk/stranger/${made.pass}` }
    },
  }),
  /** What has come to the stranger's address, and how they stand. */
  'POST door/stranger/told': look({ right: tries, input: pass, run: ask => strangerTold(ask.db, strangerIn(ask)) }),
  'POST door/stranger/end': change({
    right: tries,
    input: pass,
    run: ask => endStranger(ask.db, strangerIn(ask), ask.actor),
  }),
}
