/** What a request brings, read with limits: its body, its query, numbers in its address. */
import type { H3Event } from 'h3'
import { getHeader, getQuery, getRouterParam } from 'h3'
import type { z } from 'zod'
import { pointer } from '../../core/pointer'
import { parseWith } from '../parse-with'
import { Problem } from '../problem'

const mostBytes = 1_048_576
/** Of whom nobody knows yet: enough for every form, too little to fill a server with. */
const mostBytesBeforeSignIn = 16_384

/** The body as it is, at most `most` bytes, however it is sent; of a stranger at most 16 kB. */
export async function readBytes(event: H3Event, wanted: number): Promise<Buffer> {
  const known = event.context.caller?.signedIn
  const most = known ? wanted : Math.min(wanted, mostBytesBeforeSignIn)
  const tooLarge = () => new Problem('body-too-large', { most })
  if (Number(getHeader(event, 'content-length') ?? 0) > most) throw tooLarge()
  const chunks: Buffer[] = []
  let size = 0
  for await (const chunk of event.node.req as AsyncIterable<Buffer>) {
    size += chunk.length
    if (size > most) throw tooLarge()
    chunks.push(chunk)
  }
  return Buffer.concat(chunks)
}

/** The body as text, at most 1 MB. */
export const readText = async (event: H3Event, most = mostBytes) => (await readBytes(event, most)).toString('utf8')

/** A form as it is sent by a page: one text by name. */
export async function readForm(event: H3Event): Promise<Record<string, string>> {
  return cleanOf(Object.fromEntries(new URLSearchParams(await readText(event))))
}

/** The query, one text by name; what is given several times counts for nothing. */
export function readQuery(event: H3Event): Record<string, string> {
  return cleanOf(
    Object.fromEntries(
      Object.entries(getQuery(event)).flatMap(([key, value]) => (typeof value === 'string' ? [[key, value]] : [])),
    ),
  )
}

/** What rules and forms are made of is never nested deeper; what reads them goes down with them. */
const deepest = 100
/** No database keeps U+0000 and no text is made of half a surrogate pair: refused where they come in. */
const unkept = /\0|\p{Surrogate}/u

/** The value as it is, when all its texts can be kept; throws `bad-input` with the place of the first that cannot. */
function cleanOf<T>(value: T): T {
  const at = uncleanAt(value, [])
  if (at)
    throw new Problem(
      'character-not-kept',
      {},
      {
        at: pointer(at),
      },
    )
  return value
}

function uncleanAt(value: unknown, path: (string | number)[]): (string | number)[] | null {
  if (typeof value === 'string') return unkept.test(value) ? path : null
  if (typeof value !== 'object' || value === null) return null
  if (path.length > deepest) throw new Problem('nested-too-deep', { most: deepest })
  for (const [key, inner] of Object.entries(value)) {
    if (unkept.test(key)) return path
    const found = uncleanAt(inner, [...path, key])
    if (found) return found
  }
  return null
}

/** A number in the address that can be a row's; whatever is none is not found. */
export function numberParam(event: H3Event, name: string): number {
  const text = getRouterParam(event, name) ?? ''
  const number = /^\d{1,10}$/.test(text) ? Number(text) : Number.NaN
  if (!(number <= mostInteger)) throw new Problem('not-found')
  return number
}

/** The largest of PostgreSQL's `integer`. */
export const mostInteger = 2_147_483_647

/** What the query parameter `q` holds in JSON; without it, an empty object. */
export function readQueryJson(event: H3Event): unknown {
  const { q } = getQuery(event)
  return q === undefined || q === '' ? {} : parseJson(String(q))
}

/** A JSON body that fits `schema`, or a problem that says where it does not. */
export async function readJson<S extends z.ZodType>(event: H3Event, schema: S, most?: number): Promise<z.infer<S>> {
  const type = getHeader(event, 'content-type')?.split(';')[0]?.trim()
  const text = await readText(event, most)
  if (type !== 'application/json') throw new Problem('wrong-type')
  return parseWith(schema, parseJson(text))
}

function parseJson(text: string): unknown {
  try {
    return cleanOf(JSON.parse(text))
  } catch (error) {
    if (error instanceof Problem) throw error
    throw new Problem('body-not-json', { why: (error as Error).message })
  }
}
