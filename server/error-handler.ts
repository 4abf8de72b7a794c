/** The last word on a failed request. */
import { defineNitroErrorHandler } from 'nitropack/runtime'
import { send } from 'h3'
import { answerProblem, toldProblem } from './answer-problem'
import type { Told } from './answer-problem'
import { log } from './log'
import { problemOf } from './problem'

export default defineNitroErrorHandler(async (error, event) => {
  const told = toldOf(error)
  if (told.status >= 500) {
    // Whoever tells of it can be found in the log.
    told.body.instance = `urn:uuid:${String(event.context.requestId)}`
    log().error(
      { err: error, request: event.context.requestId },
      told.status === 503 ? 'could not answer' : 'unexpected error',
    )
  }
  if (event.node.res.headersSent || event.node.res.writableEnded) return
  return send(event, answerProblem(event, told))
})

function toldOf(error: Error & { statusCode?: number }): Told {
  const problem = problemOf(error)
  if (problem) return toldProblem(problem)
  const status = error.statusCode && error.statusCode < 500 ? error.statusCode : 500
  const title =
    status === 404
      ? 'There is nothing here'
      : status < 500
        ? 'The request was not understood'
        : 'Something went wrong on our side'
  return { status, title, body: { type: 'about:blank', title, status } }
}
