/** Answers a page of the application's own: shows it, or takes its form and sends the person on. */
import { sendRedirect, setResponseHeaders, setResponseStatus } from 'h3'
import type { H3Event } from 'h3'
import { Problem, problemOf } from '../problem'
import { callerOf } from '../request/caller'
import { readForm, readQuery } from '../request/body'
import { settledFor } from '../services/facts/settled-caller'
import { sendToSignIn } from './entrance'
import { refusedBy } from './own-page'
import { wordOf } from './own-words'
import type { Acted, OwnAsk, OwnPage } from './own-page'

export async function answerOwn(event: H3Event, { page, rest }: { page: OwnPage; rest: string[] }): Promise<unknown> {
  const caller = await callerOf(event)
  const query = readQuery(event)
  const ask: OwnAsk = { event, caller, rest, query }
  setResponseHeaders(event, { 'cache-control': 'private, no-store', vary: 'Cookie' })
  const { signedIn: needed } = page
  if (needed && !caller.signedIn && (needed === true || (await needed(ask)))) return sendToSignIn(ask)
  const acted = event.method === 'POST' ? await act(ask, page) : null
  if (acted && 'to' in acted) return sendRedirect(event, acted.to, 303)
  try {
    const data = await settledFor(caller, one => page.load({ ...ask, caller: one }))
    event.context.own = { data, problems: acted?.problems ?? {}, values: acted?.values ?? {} }
    if (acted) setResponseStatus(event, acted.status)
  } catch (error) {
    const problem = problemOf(error)
    if (!problem) throw error
    event.context.own = { data: {}, problems: {}, values: {}, failed: wordOf(problem) }
    setResponseStatus(event, problem.statusCode)
  }
}

async function act(ask: OwnAsk, page: OwnPage): Promise<Acted> {
  if (!page.act) throw new Problem('not-found')
  const form = await readForm(ask.event)
  try {
    await settledFor(ask.caller, async caller => {
      const asks = { ...ask, caller }
      // What is not right is told by the act itself.
      await (page.asks ? page.asks(asks, form) : page.load(asks)).catch((error: unknown) => {
        if (!problemOf(error)) throw error
      })
    })
    return await page.act(ask, form)
  } catch (error) {
    const problem = problemOf(error)
    if (!problem) throw error
    return refusedBy(problem, form)
  }
}
