/**
 * The job that reads another site: one page or picture after the other, with a pause between. Each is written down
 * with what it leads to before the next is asked for, so that whoever goes on after a crash begins where it broke off.
 */
import { randomUUID } from 'node:crypto'
import { setTimeout as wait } from 'node:timers/promises'
import { and, asc, eq, inArray, isNull, lt, or, sql } from 'drizzle-orm'
import { mostOfPicture } from '../../../core/pictures/picture-file'
import { mayStaff } from '../../../core/staff/staff-rule'
import { clockDate, clockMs } from '../../clock'
import type { Database, Tx } from '../../db/database'
import { inTransaction } from '../../db/turn'
import { siteReading, siteReadingItem } from '../../db/schema'
import { Problem } from '../../problem'
import { isWithin, onePage } from '../../reading/html/site-address'
import { readHtmlBeside } from '../../reading/reading'
import { readPicture, storePicture } from '../files/pictures'
import type { ReadPicture } from '../files/pictures'
import { workerOf } from '../live/worker'
import { readSettings } from '../settings/settings'
import { fetchOutside, textOfAnswer } from './outside'
import { afterReading } from '../../../core/outside/reading-states'
import type { ReadingEvent, ReadingOutcome } from '../../../core/outside/reading-states'
import { openStates } from './readings'
import type { Reading } from './readings'
import { pagesOfMaps, readRobots } from './site-map'
import type { Robots } from './site-map'

/** Of one site: pages, pictures, bytes of a page, milliseconds in all and between two. */
const mostRead = { pages: 500, pictures: 1000, page: 2_000_000, ms: 30 * 60_000, pauseMs: 100 }
/** Characters of an address that is asked for. */
const mostOfAddress = 1000
/** How long somebody reads without saying again that they do; milliseconds. More than an answer and a pause take. */
const heldMs = 60_000

/** The directory an address names: what lies below it is read. */
export const baseOf = (address: string): string => new URL('.', address).href

type Stopped = 'stopped'

/** Takes up what is asked for, or what was left by a server that is gone, and reads to its end. `pauseMs` for tests. */
export async function readSites(
  db: Database,
  { pauseMs = mostRead.pauseMs }: { pauseMs?: number } = {},
): Promise<void> {
  const holder = randomUUID()
  const reading = await takeUp(db, holder)
  if (reading) await new SiteReader(db, reading, holder, pauseMs).run()
}

async function takeUp(db: Database, holder: string): Promise<Reading | undefined> {
  const free = or(isNull(siteReading.heldUntil), lt(siteReading.heldUntil, clockDate()))
  const [one] = await db
    .update(siteReading)
    .set({ state: 'reading', holder, heldUntil: new Date(clockMs() + heldMs) })
    .where(and(inArray(siteReading.state, openStates), free))
    .returning()
  return one
}

class SiteReader {
  private readonly base: string
  private hosts: readonly string[] = []
  private robots: Robots = { allows: () => true, delayMs: 0, maps: [] }

  constructor(
    private readonly db: Database,
    private readonly reading: Reading,
    private readonly holder: string,
    private readonly pauseMs: number,
  ) {
    this.base = baseOf(reading.address)
  }

  async run(): Promise<void> {
    if ((await this.step(async () => {})) === 'stopped') return
    const robots = await readRobots(this.base, this.hosts)
    if ('failed' in robots) return this.end('fail', `Its robots.txt cannot be read: ${robots.failed}`)
    this.robots = robots
    if (this.reading.foundBy === null && (await this.findPages()) === 'stopped') return
    for (let item = await this.next(); item; item = await this.next()) {
      const isLate = clockMs() - this.reading.askedAt.getTime() > mostRead.ms
      const done = isLate ? await this.giveUpRest() : await this.readItem(item)
      if (done === 'stopped') return
      await wait(Math.max(this.pauseMs, this.robots.delayMs))
    }
    const [{ read } = { read: 0 }] = await this.db
      .select({ read: sql<number>`count(*)::int` })
      .from(siteReadingItem)
      .where(and(eq(siteReadingItem.reading, this.reading.id), sql`${siteReadingItem.outcome} ? 'page'`))
    const [first] = await this.db
      .select({ outcome: siteReadingItem.outcome })
      .from(siteReadingItem)
      .where(eq(siteReadingItem.reading, this.reading.id))
      .orderBy(asc(siteReadingItem.id))
      .limit(1)
    if (read > 0) return this.end('end')
    const why = first?.outcome && 'unread' in first.outcome ? first.outcome.unread : 'There was nothing to read.'
    return this.end('fail', why)
  }

  /**
   * One transaction of whoever still holds it and whose right still stands; it is held for longer by that. `stopped`
   * where somebody gave it up, another server took it, or the right or the host is gone.
   */
  private async step(work: (tx: Tx) => Promise<void>): Promise<Stopped | undefined> {
    let lost: string | undefined
    const done = await inTransaction(this.db, async tx => {
      const [now] = await tx.select().from(siteReading).where(eq(siteReading.id, this.reading.id)).for('update')
      if (now?.state !== 'reading' || now.holder !== this.holder) return 'stopped' as const
      const worker = await workerOf(tx, this.reading.personId)
      if (!worker || !mayStaff(worker.rights, { kind: 'settings-outside', action: 'change' }).allowed) {
        lost = 'Whoever asked for it may not do so any more.'
        return 'stopped' as const
      }
      this.hosts = (await readSettings(tx)).outside.readFrom
      await work(tx)
      const heldUntil = new Date(clockMs() + heldMs)
      await tx.update(siteReading).set({ heldUntil }).where(eq(siteReading.id, this.reading.id))
      return undefined
    })
    if (lost) await this.end('fail', lost)
    return done
  }

  private async end(event: Extract<ReadingEvent, 'end' | 'fail'>, why: string | null = null): Promise<void> {
    await inTransaction(this.db, async tx => {
      const [now] = await tx.select().from(siteReading).where(eq(siteReading.id, this.reading.id)).for('update')
      const state = now && now.holder === this.holder ? afterReading(now.state, event) : undefined
      if (!state) return
      await tx
        .update(siteReading)
        .set({ state, why, endedAt: clockDate(), holder: null, heldUntil: null })
        .where(eq(siteReading.id, this.reading.id))
    })
  }

  /** By its site map; a site without one is read along its links. */
  private async findPages(): Promise<Stopped | undefined> {
    const named = await pagesOfMaps(this.base, this.robots, { hosts: this.hosts, mostPages: mostRead.pages })
    const foundBy = named.length ? 'site map' : 'links'
    this.reading.foundBy = foundBy
    return this.step(async tx => {
      await tx.update(siteReading).set({ foundBy }).where(eq(siteReading.id, this.reading.id))
      await this.found(tx, 'page', [onePage(this.reading.address).href, ...named])
    })
  }

  private async found(tx: Tx, sort: 'page' | 'picture', addresses: readonly string[]): Promise<void> {
    const of = and(eq(siteReadingItem.reading, this.reading.id), eq(siteReadingItem.sort, sort))
    const room = (sort === 'page' ? mostRead.pages : mostRead.pictures) - (await tx.$count(siteReadingItem, of))
    const all = [...new Set(addresses)].filter(address => address.length <= mostOfAddress)
    const values = all.map(address => ({ reading: this.reading.id, sort, address }))
    const known = values.length
      ? await tx
          .select({ address: siteReadingItem.address })
          .from(siteReadingItem)
          .where(and(of, inArray(siteReadingItem.address, all)))
      : []
    const before = new Set(known.map(one => one.address))
    const fresh = values.filter(one => !before.has(one.address)).slice(0, Math.max(0, room))
    if (fresh.length) await tx.insert(siteReadingItem).values(fresh).onConflictDoNothing()
  }

  private async next() {
    const [item] = await this.db
      .select()
      .from(siteReadingItem)
      .where(and(eq(siteReadingItem.reading, this.reading.id), isNull(siteReadingItem.outcome)))
      .orderBy(asc(siteReadingItem.id))
      .limit(1)
    return item
  }

  private giveUpRest(): Promise<Stopped | undefined> {
    return this.step(async tx => {
      await tx
        .update(siteReadingItem)
        .set({ outcome: { unread: 'Not read: half an hour was over.' } })
        .where(and(eq(siteReadingItem.reading, this.reading.id), isNull(siteReadingItem.outcome)))
    })
  }

  private async readItem({ id, sort, address }: { id: number; sort: 'page' | 'picture'; address: string }) {
    const read = sort === 'page' ? await this.readPage(new URL(address)) : await this.readPicture(new URL(address))
    return this.step(async tx => {
      const outcome = 'stored' in read ? await this.keep(tx, read.stored) : read.outcome
      await tx.update(siteReadingItem).set({ outcome }).where(eq(siteReadingItem.id, id))
      if ('page' in outcome) {
        if (this.reading.foundBy === 'links') await this.found(tx, 'page', outcome.page.links.filter(isPage))
        const pictures = outcome.page.sections.flatMap(({ pieces }) =>
          pieces.flatMap(piece => ('picture' in piece ? [piece.picture] : [])),
        )
        await this.found(tx, 'picture', pictures)
      }
      if ('ledTo' in outcome) await this.found(tx, 'page', [outcome.ledTo])
    })
  }

  private async readPage(url: URL): Promise<{ outcome: ReadingOutcome }> {
    if (!this.robots.allows(url.href)) return unread('Its robots.txt asks not to read it.')
    const answer = await fetchOutside(url, { hosts: this.hosts, most: mostRead.page, accept: 'text/html' })
    if ('failed' in answer) return unread(answer.failed)
    if (!isWithin(answer.url, { base: this.base })) return unread(`It leads on to ${answer.url.href}.`)
    const at = onePage(answer.url).href
    if (at !== url.href) return { outcome: { ledTo: at } }
    if (!/html/.test(answer.type)) return unread(`It is no page but ${answer.type.split(';')[0] || 'something else'}.`)
    const html = textOfAnswer(answer.bytes, answer.type)
    const page = await readHtmlBeside({ html, url: url.href, within: { base: this.base } })
    return 'unread' in page ? unread(page.unread) : { outcome: { page } }
  }

  private async readPicture(url: URL): Promise<{ outcome: ReadingOutcome } | { stored: ReadPicture }> {
    if (url.origin !== new URL(this.base).origin) return unread(`It lies on another host, ${url.host}.`)
    if (!this.robots.allows(url.href)) return unread('Its robots.txt asks not to read it.')
    const answer = await fetchOutside(url, { hosts: this.hosts, most: mostOfPicture, accept: 'image/*' })
    if ('failed' in answer) return unread(answer.failed)
    try {
      return { stored: await readPicture(answer.bytes) }
    } catch (error) {
      if (error instanceof Problem) return unread(error.message)
      throw error
    }
  }

  private async keep(tx: Tx, read: ReadPicture): Promise<ReadingOutcome> {
    try {
      return { picture: await storePicture(tx, read, { id: this.reading.personId, name: this.reading.who }) }
    } catch (error) {
      if (error instanceof Problem) return { unread: error.message }
      throw error
    }
  }
}

const unread = (why: string) => ({ outcome: { unread: why } })
/** Addresses that end as files do that are no pages are not asked for. */
const isPage = (address: string) => !/\.(?!x?html?$|php$|aspx?$)[a-z0-9]{2,5}$/i.test(new URL(address).pathname)
