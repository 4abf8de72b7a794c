/** Fetching a download's file: by whom it may be taken, by links that are theirs alone, as often a day as their levels allow. */
import { lockOne } from '../../db/locks'
import { inTransaction } from '../../db/turn'
import { createHash } from 'node:crypto'
import { and, eq, lt } from 'drizzle-orm'
import { localTime } from '../../../core/calendar'
import { readFileName } from '../../../core/files/stored-file'
import type { StoredFile } from '../../../core/files/stored-file'
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import type { Verdict } from '../../../core/gates/verdict'
import { clockMs } from '../../clock'
import type { AnyDb } from '../../db/database'
import { fetched } from '../../db/schema'
import { Problem } from '../../problem'
import type { Snapshot } from '../live/snapshot'
import { isSignature, signature } from '../secrets/tokens'
import type { SiteSettings } from '../settings/settings'
import { contentOf } from '../versions/versions'

/** How long a link is good for; milliseconds. Enough to begin with it; whatever has begun goes on. */
const linkMs = 15 * 60_000

export interface Fetched {
  file: StoredFile
  fileName: string
  verdict: Verdict
  title: string
}

/** A download's file, for whoever may find or open the download; undefined where it is not there for them, or has none. */
export async function fetchedFile(
  { contents }: Pick<Snapshot, 'contents'>,
  decider: CompiledDecider,
  db: AnyDb,
  id: string,
): Promise<Fetched | undefined> {
  const row = contents.get('download', id)
  const verdict = decider.decide({ kind: 'download', id })
  if (!row || !(verdict.find || verdict.open)) return undefined
  const content = (await contentOf(db, [row.id])).get(row.id) ?? {}
  const file = readFileName(content.file)
  if (!file) return undefined
  const { title = id } = row.body as { title?: string }
  return { file, fileName: String(content.fileName ?? `${id}.${file.type}`), verdict, title }
}

const bodyOf = (download: string, session: string, expires: string) => JSON.stringify([download, session, expires])

/** Good for one download, in one signed-in browser, for a while. */
export function linkToken(download: string, session: string): string {
  const expires = (clockMs() + linkMs).toString(36)
  return `${expires}.${signature('fetch', bodyOf(download, session, expires))}`
}

/** Throws `link-not-yours` or `link-expired`. */
export function checkLink(token: string, download: string, session: string | undefined): void {
  const [expires = '', given = '', ...rest] = token.split('.')
  if (!session || rest.length || !isSignature('fetch', bodyOf(download, session, expires), given))
    throw new Problem('link-not-yours')
  if (Number.parseInt(expires, 36) <= clockMs()) throw new Problem('link-expired')
}

/** Files a day, for this visitor; undefined: as many as they like. Of several levels the most generous counts. */
export function mostADay(decider: CompiledDecider, { perDay }: SiteSettings['files']): number | undefined {
  const { asker } = decider
  if (asker.masterKey) return undefined
  if (!asker.signedIn) return perDay.guest
  const held = [...asker.levels.keys()]
  if (!held.length) return perDay.signedIn
  const allowed = held.map(level => perDay.levels[level])
  return allowed.includes(undefined) ? undefined : Math.max(...(allowed as number[]))
}

export interface Fetching {
  download: string
  /** A person's id, or the network of a guest. */
  who: { person: string } | { network: string }
  most: number | undefined
  timezone: string
}

const whoKey = (who: Fetching['who']) =>
  'person' in who ? who.person : `network ${createHash('sha256').update(`fetch ${who.network}`).digest('base64url')}`

/** Counts a file once a day, however often it is fetched; throws `fetched-enough` where another would be one too many. */
export async function countFetch(db: AnyDb, { download, who, most, timezone }: Fetching): Promise<void> {
  if (most === undefined) return
  const { date: day } = localTime(clockMs(), timezone)
  const key = whoKey(who)
  await inTransaction(db, async tx => {
    await lockOne(tx, 'fetches', key)
    const today = await tx
      .select({ download: fetched.download })
      .from(fetched)
      .where(and(eq(fetched.day, day), eq(fetched.who, key)))
    if (today.some(one => one.download === download)) return
    if (today.length >= most) throw new Problem('fetched-enough', { most })
    await tx.insert(fetched).values({ day, who: key, download })
  })
}

export async function dropOldFetches(db: AnyDb): Promise<void> {
  // Two days are over everywhere.
  const before = new Date(clockMs() - 2 * 86_400_000).toISOString().slice(0, 10)
  await db.delete(fetched).where(lt(fetched.day, before))
}
