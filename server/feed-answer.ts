/** The four addresses of feeds answer by this: for whoever asks, or for whom a private address was made; all posts, or a topic's. */
import { setResponseHeader } from 'h3'
import type { H3Event } from 'h3'
import { CompiledDecider } from '../core/gates/compiled-decider'
import { db } from './db/database'
import { answerFound } from './finding-answer'
import { Problem } from './problem'
import { callerOf } from './request/caller'
import { visitorOver } from './request/facts'
import { feedReader } from './services/finding/feed-address'
import { feedFor } from './services/finding/feed'

export async function answerFeed(
  event: H3Event,
  { token, topic }: { token?: string | undefined; topic?: string | undefined },
): Promise<string> {
  const caller = await callerOf(event)
  const at = `/feed${token === undefined ? '' : `/own/${token}`}${topic === undefined ? '' : `/${topic}`}`
  const as = token === undefined ? undefined : await readerOf(event, token)
  // A private address is written into no log of another site, and no search engine keeps it.
  if (as) setResponseHeader(event, 'x-robots-tag', 'noindex')
  return answerFound(
    event,
    'application/atom+xml; charset=utf-8',
    decider => feedFor({ snapshot: caller.snapshot, decider, db: db(), topic, at }),
    as,
  )
}

async function readerOf(event: H3Event, token: string): Promise<CompiledDecider> {
  const { snapshot, nowMs } = await callerOf(event)
  const { rules } = snapshot
  const reader = await feedReader(db(), token, rules.rulebook)
  if (!reader) throw new Problem('not-found')
  return new CompiledDecider(rules, visitorOver(event, rules.rulebook, reader), nowMs)
}
