/** Feeds and site maps as they are sent: kept by whom the answer is for, and not sent again to whom has it. */
import { createHash } from 'node:crypto'
import { getHeader, setResponseHeaders, setResponseStatus } from 'h3'
import type { H3Event } from 'h3'
import type { CompiledDecider } from '../core/gates/compiled-decider'
import { Problem } from './problem'
import { callerOf, keepingAsk } from './request/caller'
import { headerOfFact } from './request/facts'
import type { Caller } from './request/caller'
import { settled } from './services/facts/settled'
import { keepingFor } from './services/pages/page-view'

/** Answers what `make` makes of whoever asks; nothing is not found. `decider`: of somebody else than the session says. */
export async function answerFound(
  event: H3Event,
  type: string,
  make: (decider: CompiledDecider, caller: Caller) => Promise<string | undefined> | string | undefined,
  as?: CompiledDecider,
): Promise<string> {
  const caller = await callerOf(event)
  const { result } = await settled(as ?? caller.decider, async decider => {
    const facts = decider.watch()
    return { facts, text: await make(decider, caller) }
  })
  if (result.text === undefined) throw new Problem('not-found')
  const tag = `W/"${createHash('sha256').update(result.text).digest('base64url').slice(0, 22)}"`
  const keeping = as
    ? { 'cache-control': 'private, no-cache' }
    : keepingFor(result.facts, headerOfFact(), keepingAsk(caller))
  setResponseHeaders(event, { ...keeping, 'content-type': type, etag: tag })
  if (getHeader(event, 'if-none-match') !== tag) return result.text
  setResponseStatus(event, 304)
  return ''
}
