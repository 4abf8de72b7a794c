import { defineEventHandler, setResponseHeader } from 'h3'
import { db } from '../../../db/database'
import { staffCaller } from '../../../request'
import { listProducts } from '../../../services/shop/products'

export default defineEventHandler(async event => {
  const worker = await staffCaller(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  return listProducts(db(), worker)
})
