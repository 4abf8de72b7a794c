/**
 * Ends requests that come a byte at a time: each holds a connection, and whoever opens thousands of them costs others
 * theirs. What is sent at the pace of the poorest line goes on, and an upload that was broken off goes on from there.
 */
import type { Server } from 'node:http'
import type { H3Event } from 'h3'
import { answerProblem, toldProblem } from './answer-problem'
import { Problem } from './problem'

/** A body brings this much in every window, or is ended; bytes, milliseconds. */
const leastInWindow = 5_000
const windowMs = 10_000
/** A head is whole within this; milliseconds. Node looks every thirty seconds. */
const headMs = 15_000

const bounded = new WeakSet<object>()

/** Watches the body of this request until it is whole. */
export function boundBody(event: H3Event): void {
  const { req } = event.node
  boundHeads(req.socket as unknown as { server?: Server })
  if (!Number(req.headers['content-length'] ?? 0) && req.headers['transfer-encoding'] === undefined) return
  const { socket } = req
  let seen = socket.bytesRead
  const over = () => clearInterval(timer)
  const timer = setInterval(() => {
    if (req.complete) return over()
    const came = socket.bytesRead - seen
    seen = socket.bytesRead
    // What lies here unread waits for us, not we for them.
    if (came >= leastInWindow || req.readableLength > 0) return
    over()
    end(event)
  }, windowMs).unref()
  req.once('end', over)
  req.once('close', over)
  socket.once('close', over)
}

function end(event: H3Event): void {
  const { res, req } = event.node
  if (res.headersSent) return void req.socket.destroy()
  res.setHeader('connection', 'close')
  res.end(answerProblem(event, toldProblem(new Problem('too-slow'))), () => req.socket.destroy())
}

/** The server is made by the framework: it is met with the first request it hands on. */
function boundHeads({ server }: { server?: Server }): void {
  if (!server || bounded.has(server)) return
  bounded.add(server)
  server.headersTimeout = headMs
}
