import { defineEventHandler, getHeader, sendNoContent } from 'h3'
import { readText } from '../../request/body'
import { receiveNotice } from '../../services/orders/notices'
import { signatureHeader } from '../../services/payments/stand-in'

/** Where the payment provider tells what became of a payment. */
export default defineEventHandler(async event => {
  await receiveNotice(await readText(event), getHeader(event, signatureHeader))
  return sendNoContent(event)
})
