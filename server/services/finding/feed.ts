/** News as Atom (RFC 4287): of all posts or those of a topic, what one reader may find, with the words of what opens to them. */
import { Feed } from 'feed'
import { localInstant } from '../../../core/calendar'
import { assembleEntries } from '../../../core/pages/assemble'
import type { FeedEntry } from '../../../core/view/view'
import { rightBit } from '../../../core/gates/verdict'
import { thingsIn } from '../../../core/site/holding'
import { isKept } from '../../../core/kinds/kinds'
import type { Resource } from '../../../core/kinds/kinds'
import { siteAddress } from '../mail/mail'
import { sourceFor } from '../pages/page-view'
import type { ViewAsk } from '../pages/page-view'

const mostEntries = 50

export interface FeedAsk extends Omit<ViewAsk, 'path'> {
  /** Posts of this topic alone. */ topic?: string | undefined
  /** The address it is read at, below the site's. */ at: string
}

/** Undefined for a topic there is not, and for one of which this reader finds nothing: both are the same. */
export async function feedFor(ask: FeedAsk): Promise<string | undefined> {
  const { snapshot, decider, topic, at } = ask
  const { index } = snapshot.rules
  const of: Record<string, string> = topic === undefined ? { kind: 'post' } : { topic }
  const { source, fill } = sourceFor(ask)
  // The newest first: those that may be found are looked at until there are enough.
  const found: Resource[] = []
  for (const thing of thingsIn(of, index)) {
    if (found.length === mostEntries) break
    if (decider.bits(thing) & rightBit.find) found.push(thing)
  }
  if (topic !== undefined && !found.length) return undefined
  const entries = await assembleEntries({ rules: snapshot.rules, decider, source, path: '' }, found)
  const name = index.site.name ?? ''
  const about = topic === undefined ? undefined : (index.get('topic', topic) as { title?: string } | undefined)?.title
  const address = siteAddress()
  const moments = entries.map(entry => momentOf(entry, ask))
  const feed = new Feed({
    id: `${address}${at}`,
    title: plain(about ? `${name}: ${about}` : name),
    link: `${address}/`,
    updated: new Date(Math.max(0, ...moments.map(one => one.getTime()))),
    generator: 'Bravik',
    feedLinks: { atom: `${address}${at}` },
    language: index.site.locale ?? 'en',
  })
  entries.forEach((entry, i) => {
    feed.addItem({
      id: `tag:${new URL(address).hostname},2026:${entry.thing.kind}:${entry.thing.id}`,
      title: plain(entry.title),
      link: address + entry.path,
      date: moments[i]!,
      description: plain(entry.summary),
      ...(entry.html === undefined ? {} : { content: absolute(fill(entry.html), address) }),
      ...(entry.author ? { author: [{ name: clean(entry.author) }] } : {}),
    })
  })
  return feed.atom1()
}

/** Noon of the day it is of, or when it was last changed. */
function momentOf({ thing, day }: FeedEntry, { snapshot }: FeedAsk): Date {
  const { timezone } = snapshot.rules.index.site
  if (day !== undefined) return new Date(localInstant(day, '12:00', timezone))
  return (isKept(thing.kind) && snapshot.contents.get(thing.kind as 'post', thing.id)?.changedAt) || new Date(0)
}

/** Characters XML has no place for (XML 1.0, 2.2). */
const clean = (text: string) => text.replaceAll(/(?![\t\n\r])[\p{Cc}\uFFFE\uFFFF\p{Surrogate}]/gu, '')
/** Titles and summaries are told as HTML, and are words. */
const plain = (text: string) => clean(text).replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;')
/** Where a feed is read nothing lies beside it. */
const absolute = (html: string, address: string) => clean(html).replaceAll(/ (href|src)="\/(?!\/)/g, ` $1="${address}/`)
