import { defineEventHandler } from 'h3'
import { answerFeed } from '../feed-answer'

/** What is new on the site, for whoever asks. */
export default defineEventHandler(event => answerFeed(event, {}))
