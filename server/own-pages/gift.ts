/** A gift, told to whoever has its link and taken by whoever of them is signed in. */
import { db } from '../db/database'
import { Problem } from '../problem'
import { readGift, takeGift } from '../services/orders/gifts'
import type { GiftTold } from '../services/orders/gifts'
import { orderWorld } from '../services/orders/world'
import type { OwnAsk, OwnPage } from './own-page'

export interface GiftData extends GiftTold {
  signedIn: boolean
  /** Where it is taken, once they are signed in. */ back: string
  timezone: string
}

function tokenIn({ rest }: OwnAsk): string {
  const [token] = rest
  if (!token || rest.length > 1) throw new Problem('not-found')
  return token
}

export const giftPage: OwnPage<GiftData> = {
  path: '/gift',
  async load(ask) {
    const { caller } = ask
    const token = tokenIn(ask)
    const gift = await readGift(db(), token)
    if (!gift) throw new Problem('not-found')
    const { timezone } = caller.snapshot.rules.index.site
    return { ...gift, signedIn: Boolean(caller.signedIn), back: `/gift/${token}`, timezone }
  },
  async act(ask) {
    const { caller } = ask
    const token = tokenIn(ask)
    if (!caller.signedIn) return { to: `/sign-in?back=${encodeURIComponent(`/gift/${token}`)}` }
    await takeGift(db(), orderWorld(caller.snapshot), token, caller.signedIn.personId)
    return { to: '/account' }
  },
}
