import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { changeProduct, productChange } from '../../../services/shop/products'

export default defineEventHandler(async event => {
  const worker = await staffCaller(event)
  await changeProduct(
    db(),
    worker,
    getRouterParam(event, 'id') ?? '',
    await readJson(event, productChange),
    worker.actor,
  )
  return sendNoContent(event)
})
