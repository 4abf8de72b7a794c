/** The last word on a failed request: problem+json, never the insides of an error. */
import { defineNitroErrorHandler } from 'nitropack/runtime'
import { send, setResponseHeader, setResponseStatus } from 'h3'
import { problemOf } from './problem'

export default defineNitroErrorHandler(async (error, event) => {
  const problem = problemOf(error)
  const status = problem?.statusCode ?? (error.statusCode && error.statusCode < 500 ? error.statusCode : 500)
  if (!problem && status >= 500) console.error('unexpected error', event.method, event.path.split('?')[0], error.cause instanceof Error ? error.cause.name : error.name, safeMessage(error))
  setResponseStatus(event, status)
  setResponseHeader(event, 'content-type', 'application/problem+json')
  setResponseHeader(event, 'cache-control', 'private, no-store')
  const body = problem?.body() ?? { type: 'about:blank', title: status === 404 ? 'There is nothing here' : status < 500 ? 'The request was not understood' : 'Something went wrong on our side', status }
  return send(event, JSON.stringify(body))
})

/** Database errors print their parameters, so only their code is kept. */
function safeMessage(error: Error): string {
  const cause = (error.cause ?? error) as { code?: string, message?: string, query?: string, cause?: { code?: string, message?: string } }
  return cause.query ? `database ${cause.cause?.code ?? ''}` : String(error.stack ?? cause.message)
}
