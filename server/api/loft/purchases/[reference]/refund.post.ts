import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../../db/database'
import { staffCaller } from '../../../../request'
import { refund } from '../../../../services/memberships/payments'
import { leaveTrace } from '../../../../services/trace'

export default defineEventHandler(async event => {
  const { actor } = await staffCaller(event)
  const reference = getRouterParam(event, 'reference') ?? ''
  await refund(reference)
  await leaveTrace(db(), actor, 'purchase.refund', `purchase ${reference}`)
  return sendNoContent(event)
})
