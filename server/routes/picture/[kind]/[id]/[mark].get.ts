import { defineEventHandler, getRouterParams, removeResponseHeader, setResponseHeaders } from 'h3'
import { readSaid } from '../../../../../core/pictures/picture-file'
import { db } from '../../../../db/database'
import { Problem } from '../../../../problem'
import { callerOf, keepingAsk } from '../../../../request/caller'
import { headerOfFact } from '../../../../request/facts'
import { settled } from '../../../../services/facts/settled'
import { keepingFor } from '../../../../services/pages/page-view'
import { pictureFor, sendPicture } from '../../../../services/pages/picture-of'

/** A picture of a page, a post or a part of one, for whoever that opens. */
export default defineEventHandler(async event => {
  const caller = await callerOf(event)
  const { snapshot } = caller
  setResponseHeaders(event, { 'cache-control': 'private, no-store', vary: 'Cookie' })
  const { kind = '', id = '', mark = '' } = getRouterParams(event, { decode: true })
  const asOnPage = caller.decider.withRequest(readSaid(caller.decider.visitor.request?.query ?? {}))
  const { result } = await settled(asOnPage, async decider => {
    const facts = decider.watch()
    return { facts, picture: await pictureFor({ snapshot, decider, db: db(), kind, id, mark }) }
  })
  if (!result.picture) throw new Problem('not-found')
  removeResponseHeader(event, 'vary')
  setResponseHeaders(event, keepingFor(result.facts, headerOfFact(), keepingAsk(caller)))
  return sendPicture(event, result.picture)
})
