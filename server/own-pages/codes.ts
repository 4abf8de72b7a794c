/** Codes a visitor gave: giving one, letting it go, and being shown one of one's own. */
import { isSitePath } from '../../core/shapes'
import { db } from '../db/database'
import { networkOf } from '../forwarded'
import { Problem } from '../problem'
import { giveCode, letCodeGo, ownCode, whatIsKept } from '../services/shop/given-codes'
import type { KeptCode } from '../services/shop/given-codes'
import { holderFor, holderOf } from './guest-holder'
import { refused } from './own-page'
import type { Acted, OwnAsk, OwnPage } from './own-page'
import { wordOf } from './own-words'
import { wayBack } from '../../core/site/way-back'

export interface CodesData {
  kept: KeptCode[]
  back: string
  timezone: string
}

const backOf = (text: string | undefined) => (text && isSitePath(text) ? text : '')

/** A guest is told apart from others from the first code they give that fits. */
async function give({ event, caller }: OwnAsk, typed: string): Promise<void> {
  const { holder, remember } = holderFor(event, caller)
  await giveCode(db(), caller, { typed, holder, network: networkOf(event) })
  remember()
}

/** Is given with `code`, or `own`: the id of the offer, or `drop`: the same. */
export const codesPage: OwnPage<CodesData> = {
  path: '/account/codes',
  async load(ask) {
    const { caller, query } = ask
    const holder = holderOf(ask.event, ask.caller)
    return {
      kept: holder ? await whatIsKept(db(), caller.snapshot, holder) : [],
      back: backOf(query.back),
      timezone: caller.snapshot.rules.index.site.timezone,
    }
  },
  async asks({ caller: { snapshot, decider } }) {
    for (const { code, active, for: whom } of snapshot.rules.rulebook.offers ?? [])
      if (code !== undefined && active !== false && whom) decider.admits(whom)
  },
  async act(ask, form): Promise<Acted> {
    const { caller } = ask
    const back = backOf(form.back)
    const here = `/account/codes${back ? `?back=${wayBack(back)}` : ''}`
    if (form.drop !== undefined) {
      const holder = holderOf(ask.event, ask.caller)
      if (holder) await letCodeGo(db(), holder, form.drop)
      return { to: here }
    }
    if (form.own !== undefined) {
      if (!caller.signedIn) return { to: `/sign-in?back=${wayBack(back || here)}` }
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
