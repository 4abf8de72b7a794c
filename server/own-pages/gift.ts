/** A gift, taken by whoever has its link and is signed in. */
import { db } from '../db/database'
import { Problem } from '../problem'
import { takeGift } from '../services/orders/settle'
import { orderWorld } from '../services/orders/world'
import type { OwnPage } from './own-page'

export const giftPage: OwnPage = {
  path: '/gift',
  signedIn: true,
  load: async () => ({}),
  async act({ caller, rest }) {
    const [token] = rest
    if (!token || rest.length > 1) throw new Problem('not-found')
    await takeGift(db(), orderWorld(caller.snapshot), token, caller.signedIn!.personId)
    return { to: '/account' }
  },
}
