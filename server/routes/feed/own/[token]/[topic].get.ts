import { defineEventHandler, getRouterParams } from 'h3'
import { answerFeed } from '../../../../feed-answer'

/** The same at a private address, of one topic. */
export default defineEventHandler(event => {
  const { token, topic } = getRouterParams(event, { decode: true })
  return answerFeed(event, { token, topic })
})
