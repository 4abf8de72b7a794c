import { defineEventHandler, getRouterParam } from 'h3'
import { answerFeed } from '../../feed-answer'

/** The same of one topic. */
export default defineEventHandler(event =>
  answerFeed(event, { topic: getRouterParam(event, 'topic', { decode: true }) }),
)
