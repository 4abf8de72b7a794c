/** A picture a thing shows, for whoever that thing opens: never by its name alone. */
import { getHeader, setResponseHeader, setResponseHeaders, setResponseStatus } from 'h3'
import type { H3Event } from 'h3'
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import { pictureMark, pictureTypes, readMark } from '../../../core/pictures/picture-file'
import { opensWhereItStands } from '../../../core/pages/made-from/standing-open'
import { moduleOf } from '../../../core/kinds/kinds'
import type { Kind, Resource } from '../../../core/kinds/kinds'
import type { DimmedPart } from '../../../core/rulebook/gate'
import { serverKinds } from '../../kinds/kinds'
import type { VersionedThing } from '../../kinds/kinds'
import type { AnyDb } from '../../db/database'
import type { Snapshot } from '../live/snapshot'
import { storedPicture } from '../files/pictures'
import type { StoredPicture } from '../files/pictures'
import { contentOf } from '../versions/versions'

export interface PictureAsk {
  snapshot: Pick<Snapshot, 'rules' | 'contents'>
  decider: CompiledDecider
  db: AnyDb
  /** Of a thing that shows pictures; anything else has none. */
  kind: string
  id: string
  /** With the width of a smaller size, where one is asked for. */ mark: string
}
/** One, where the visitor may have it; refused and missing are the same. */
export async function pictureFor(ask: PictureAsk): Promise<StoredPicture | undefined> {
  const asked = readMark(ask.mark)
  const name = asked && (await nameFor({ ...ask, mark: asked.mark }))
  return name === undefined ? undefined : storedPicture(ask.db, name, asked!.width)
}

async function nameFor({ snapshot, decider, db, kind, id, mark }: PictureAsk): Promise<string | undefined> {
  const picturesIn = Object.hasOwn(serverKinds, kind) ? serverKinds[kind as VersionedThing].pictures : undefined
  const row = picturesIn && snapshot.contents.get(kind as VersionedThing, id)
  const thing = { kind: kind as Kind, id }
  if (!row || !opensWhereItStands(thing, snapshot.rules, one => isSeen(decider, one, id))) return undefined
  const content = (await contentOf(db, [row.id])).get(row.id)
  const whole = { ...(row.body as Record<string, unknown>), ...content }
  return picturesIn(whole).find(({ name }) => pictureMark(name) === mark)?.name
}

/** Whether it opens; or, of the part itself, whether what stands in its place keeps the picture. */
function isSeen(decider: CompiledDecider, thing: Resource, id: string): boolean {
  const { open, otherwise } = decider.decide(thing)
  // Only parts stand in something, and have something stand in their place.
  if (open || thing.id !== id || !moduleOf(thing.kind).around) return open
  return otherwise !== undefined && 'dimmed' in otherwise && keepsSight(otherwise.dimmed)
}
const keepsSight = (dimmed: true | { keep: DimmedPart[] }) => dimmed !== true && dimmed.keep.includes('sight')

/** What one is sent with: nothing in it runs, wherever it is opened. */
export function sendPicture(event: H3Event, { name, type, bytes, smaller }: StoredPicture): Buffer | '' {
  const tag = `"${pictureMark(name)}${smaller ? `-${smaller}` : ''}"`
  setResponseHeaders(event, {
    'content-type': pictureTypes[type],
    'x-content-type-options': 'nosniff',
    'content-security-policy': "default-src 'none'; sandbox",
    'cross-origin-resource-policy': 'same-origin',
    etag: tag,
  })
  if (getHeader(event, 'if-none-match') === tag) {
    setResponseStatus(event, 304)
    return ''
  }
  setResponseHeader(event, 'content-length', bytes.length)
  return bytes
}
