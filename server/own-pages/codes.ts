/** Codes a visitor gave: giving one, letting it go, and being shown one of one's own. */
import { setCookie } from 'h3'
import { isSitePath } from '../../core/shapes'
import { db } from '../db/database'
import { isSecure, networkOf } from '../forwarded'
import { Problem } from '../problem'
import { giveCode, keptMs, letCodeGo, ownCode, whatIsKept } from '../services/shop/given-codes'
import type { Holder, KeptCode } from '../services/shop/given-codes'
import { guestCookie, guestTokenOf } from '../services/shop/guest-codes'
import { hashOf, newToken } from '../services/secrets/tokens'
import { refused } from './own-page'
import type { Acted, OwnAsk, OwnPage } from './own-page'
import { wordOf } from './own-words'

export interface CodesData {
  kept: KeptCode[]
  back: string
  timezone: string
}

const backOf = (text: string | undefined) => (text && isSitePath(text) ? text : '')

function holderOf({ event, caller }: OwnAsk): Holder | null {
  if (caller.signedIn) return { person: caller.signedIn.personId }
  const token = guestTokenOf(event)
  return token ? { guest: hashOf(token) } : null
}

/** A guest is told apart from others from the first code they give that fits. */
async function give(ask: OwnAsk, typed: string): Promise<void> {
  const { event, caller } = ask
  const known = holderOf(ask)
  const token = known ? guestTokenOf(event) : newToken()
  const holder = known ?? { guest: hashOf(token!) }
  await giveCode(db(), caller, { typed, holder, network: networkOf(event) })
  if ('guest' in holder)
    setCookie(event, guestCookie, token!, {
      httpOnly: true,
      sameSite: 'lax',
      path: '/',
      maxAge: keptMs.guest / 1000,
      secure: isSecure(event),
    })
}

/** Is given with `code`, or `own`: the id of the offer, or `drop`: the same. */
export const codesPage: OwnPage<CodesData> = {
  path: '/account/codes',
  async load(ask) {
    const { caller, query } = ask
    const holder = holderOf(ask)
    return {
      kept: holder ? await whatIsKept(db(), caller.snapshot, holder) : [],
      back: backOf(query.back),
      timezone: caller.snapshot.rules.index.site.timezone,
    }
  },
  async act(ask, form): Promise<Acted> {
    const { caller } = ask
    const back = backOf(form.back)
    const here = `/account/codes${back ? `?back=${encodeURIComponent(back)}` : ''}`
    if (form.drop !== undefined) {
      const holder = holderOf(ask)
      if (holder) await letCodeGo(db(), holder, form.drop)
      return { to: here }
    }
    if (form.own !== undefined) {
      if (!caller.signedIn) return { to: `/sign-in?back=${encodeURIComponent(back || here)}` }
      await ownCode(db(), caller, form.own, caller.signedIn.personId)
      return { to: here }
    }
    try {
      await give(ask, form.code ?? '')
    } catch (error) {
      // Whatever is wrong with it is told where it was typed.
      if (!(error instanceof Problem)) throw error
      return refused({ code: wordOf(error) }, form, error.statusCode)
    }
    return { to: back || here }
  },
}
