/** What a request tells about its visitor, and its body, read with limits. */
import type { H3Event } from 'h3'
import { getCookie, getHeader, getQuery, getRequestIP } from 'h3'
import { clockMs } from './clock'
import type { z } from 'zod'
import type { FactGroup } from '../core/conditions/looks-at'
import type { Visitor } from '../core/rulebook/visitor'
import { pointer } from '../core/pointer'
import { CompiledDecider } from '../core/gates/compiled-decider'
import { db } from './db/database'
import { Problem } from './problem'
import { record } from './services/activity/activity'
import { isStaff, rightsOf } from './services/staff/authorise'
import { authoriseRoute } from './services/staff/route-rights'
import type { StaffRights } from '../core/staff/staff-rule'
import { sessionCookie, signedInBy } from './services/entrance/sessions'
import type { SignedIn } from './services/entrance/sessions'
import { snapshot } from './services/rules/snapshot'
import type { Snapshot } from './services/rules/snapshot'
import type { Actor } from './services/trace'

export const mostBytes = 1_048_576

/** Headers an operator's proxy may set; without them country and region stay unknown, and unknown refuses. */
const countryHeader = process.env.BRAVIK_COUNTRY_HEADER?.toLowerCase()
const regionHeader = process.env.BRAVIK_REGION_HEADER?.toLowerCase()
const behindProxy = process.env.BRAVIK_TRUST_PROXY === '1'

/** The request header each fact is read from, for `Vary`. */
export const headerOfFact: Partial<Record<FactGroup, string>> = {
  person: 'Cookie', basket: 'Cookie', device: 'User-Agent', language: 'Accept-Language', referrer: 'Referer',
  ...(countryHeader ? { country: countryHeader } : {}), ...(behindProxy ? { address: 'X-Forwarded-For' } : {}),
}

export function requestFacts(event: H3Event, nowMs: number): NonNullable<Visitor['request']> {
  const agent = getHeader(event, 'user-agent') ?? ''
  const language = getHeader(event, 'accept-language')?.split(',')[0]?.split(';')[0]?.trim()
  const read: Record<string, string | undefined> = {
    device: deviceOf(agent), browser: browserOf(agent), language: language === '*' ? undefined : language,
    country: countryHeader && getHeader(event, countryHeader), region: regionHeader && getHeader(event, regionHeader),
    address: getRequestIP(event, { xForwardedFor: behindProxy }), referrer: getHeader(event, 'referer'),
  }
  const query = Object.fromEntries(Object.entries(getQuery(event)).map(([name, value]) => [name, String(Array.isArray(value) ? value[0] : value ?? '')]))
  return { at: new Date(nowMs).toISOString(), ...Object.fromEntries(Object.entries(read).filter(([, value]) => value)), query }
}

function deviceOf(agent: string): string | undefined {
  if (!agent) return undefined
  if (/iPad|Tablet|Android(?!.*Mobile)/i.test(agent)) return 'tablet'
  return /Mobi/i.test(agent) ? 'phone' : 'desktop'
}

function browserOf(agent: string): string | undefined {
  return ([['edge', /Edg\//], ['firefox', /Firefox\//], ['chrome', /Chrom(e|ium)\//], ['safari', /Safari\//]] as const).find(([, sign]) => sign.test(agent))?.[0]
}

/** Everything about who asks, once per request: one snapshot, one visitor, one decider. */
export interface Caller { snapshot: Snapshot, signedIn: SignedIn | null, decider: CompiledDecider, rights: StaffRights, nowMs: number }

export async function callerOf(event: H3Event): Promise<Caller> {
  const known = event.context.caller as Caller | undefined
  if (known) return known
  const nowMs = clockMs()
  const token = getCookie(event, sessionCookie)
  const [current, signedIn] = await Promise.all([snapshot(), token ? signedInBy(db(), token) : null])
  const visitor: Visitor = { ...(signedIn?.visitor ?? { person: null }), request: requestFacts(event, nowMs) }
  const decider = new CompiledDecider(current.rules, visitor, nowMs)
  const caller: Caller = { snapshot: current, signedIn, nowMs, decider, rights: rightsOf(decider, current.staffRules) }
  event.context.caller = caller
  return caller
}

export interface StaffCaller extends Caller { actor: Actor, signedIn: SignedIn }

/** The caller, when the table of routes lets them call this one; otherwise the request ends here. */
export async function staffCaller(event: H3Event): Promise<StaffCaller> {
  const caller = await callerOf(event)
  const { signedIn } = caller
  if (!signedIn) throw new Problem('sign-in-needed')
  if (!isStaff(caller.decider)) throw new Problem('not-allowed')
  const route = `${event.method} ${(event.context.matchedRoute as { path: string } | undefined)?.path ?? ''}`
  authoriseRoute(caller.rights, route)
  if (event.method !== 'GET') record({ kind: 'staff', personId: signedIn.personId, tier: 'staff', subjectKind: 'route', subjectId: route })
  return { ...caller, signedIn, actor: { id: signedIn.personId, name: signedIn.visitor.person?.name ?? signedIn.personId } }
}

/** The caller as somebody signed in; otherwise the request ends here. */
export async function personCaller(event: H3Event): Promise<StaffCaller> {
  const caller = await callerOf(event)
  const { signedIn } = caller
  if (!signedIn) throw new Problem('sign-in-needed')
  return { ...caller, signedIn, actor: { id: signedIn.personId, name: signedIn.visitor.person?.name ?? signedIn.personId } }
}

export const networkOf = (event: H3Event) => getRequestIP(event, { xForwardedFor: behindProxy }) ?? ''

/** The body as it is, at most `most` bytes, however it is sent. */
export async function readBytes(event: H3Event, most: number): Promise<Buffer> {
  if (Number(getHeader(event, 'content-length') ?? 0) > most) throw new Problem('too-large')
  const chunks: Buffer[] = []
  let size = 0
  for await (const chunk of event.node.req as AsyncIterable<Buffer>) {
    size += chunk.length
    if (size > most) throw new Problem('too-large')
    chunks.push(chunk)
  }
  return Buffer.concat(chunks)
}

/** The body as text, at most 1 MB. */
export const readText = async (event: H3Event) => (await readBytes(event, mostBytes)).toString('utf8')

/** What the query parameter `q` holds in JSON; without it, an empty object. */
export function readQueryJson(event: H3Event): unknown {
  const { q } = getQuery(event)
  return q === undefined || q === '' ? {} : parseJson(String(q))
}

/** A JSON body that fits `schema`, or a problem that says where it does not. */
export async function readJson<S extends z.ZodType>(event: H3Event, schema: S): Promise<z.infer<S>> {
  const type = getHeader(event, 'content-type')?.split(';')[0]?.trim()
  const text = await readText(event)
  if (type !== 'application/json') throw new Problem('wrong-type')
  return parseWith(schema, parseJson(text))
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text)
  }
  catch (error) {
    throw new Problem('not-json', `The body is not JSON: ${(error as Error).message}`)
  }
}

export function parseWith<S extends z.ZodType>(schema: S, value: unknown): z.infer<S> {
  const result = schema.safeParse(value)
  if (result.success) return result.data
  const issues = result.error.issues.map(issue => ({ at: pointer(issue.path as (string | number)[]), message: issue.message }))
  throw new Problem('bad-input', issues.map(issue => `${issue.at || '/'}: ${issue.message}`).join(' '), { issues })
}
