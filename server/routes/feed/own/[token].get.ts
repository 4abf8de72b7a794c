import { defineEventHandler, getRouterParam } from 'h3'
import { answerFeed } from '../../../feed-answer'

/** The same at a private address, for whom it was made. */
export default defineEventHandler(event => answerFeed(event, { token: getRouterParam(event, 'token') }))
