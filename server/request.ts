/** What a request tells about its visitor, and its body, read with limits. */
import type { H3Event } from 'h3'
import { LRUCache } from 'lru-cache'
import Negotiator from 'negotiator'
import { getCookie, getHeader, getQuery, getRouterParam } from 'h3'
import { clockMs } from './clock'
import type { z } from 'zod'
import { parseWith } from './parse-with'
import type { FactGroup } from '../core/visitor/fact-group'
import type { RequestFacts } from '../core/visitor/request-print'
import type { Visitor } from '../core/visitor/visitor'
import { pointer } from '../core/pointer'
import { CompiledDecider } from '../core/gates/compiled-decider'
import { db } from './db/database'
import type { AnyDb } from './db/database'
import { environment } from './environment'
import { agentOf } from './agent'
import { addressOf } from './forwarded'
import { factsOfRequest, ownFacts } from '../core/visitor/fact-source'
import type { Rulebook } from '../core/rulebook/rulebook'
import { whenNetworksChange, whereaboutsOf } from './services/facts/network-country'
import { Problem } from './problem'
import { record } from './services/activity/activity'
import { isStaff, rightsOf } from './services/staff/authorise'
import { authoriseLookAsRole, powerOf } from './services/staff/staff-grants'
import type { StaffRights } from '../core/staff/staff-rule'
import { knownCookie, sessionCookie, sessionOf, signedInBy, signedInNow } from './services/entrance/sessions'
import type { SignedIn } from './services/entrance/sessions'
import { codesInMind, guestCookie, guestTokenOf } from './services/shop/guest-codes'
import type { GuestCodes } from './services/shop/guest-codes'
import { basketCookie, basketFromCookie } from './services/orders/guest-basket'
import { snapshot, snapshotNow } from './services/live/snapshot'
import type { Snapshot } from './services/live/snapshot'
import type { Actor } from './trace'

export const mostBytes = 1_048_576
/** Of whom nobody knows yet: enough for every form, too little to fill a server with. */
export const mostBytesBeforeSignIn = 16_384

/** The request header each fact is read from, for `Vary`. Without an operator's proxy country and region stay unknown, and unknown refuses. */
export function headerOfFact(): Partial<Record<FactGroup, string>> {
  const { BRAVIK_COUNTRY_HEADER: country, BRAVIK_TRUST_PROXY: hops } = environment()
  return {
    person: 'Cookie',
    basket: 'Cookie',
    device: 'User-Agent',
    language: 'Accept-Language',
    referrer: 'Referer',
    ...(country ? { country } : {}),
    ...(hops ? { address: 'X-Forwarded-For' } : {}),
  }
}

/** Who an answer is for, as far as that decides who may keep it. */
export const keepingAsk = ({ signedIn }: Pick<Caller, 'signedIn'>) => ({
  guest: !signedIn,
  sharedSeconds: environment().BRAVIK_SHARED_SECONDS,
})

/** The language liked best (RFC 9110, 12.5.4); who takes any names none. */
const likedLanguage = (accepted: string): string | undefined =>
  new Negotiator({ headers: { 'accept-language': accepted || '*' } }).languages().find(one => one !== '*')

/** What a browser says of itself at one address is the same with each of its requests: read once. Characters read of, kept of each. */
const readBefore = new LRUCache<string, RequestFacts>({ max: 5000 })
const longestRead = 1000
whenNetworksChange(() => readBefore.clear())

/** All a request says but where it came from and what stands behind its path. */
function browserFacts(event: H3Event): RequestFacts {
  const { BRAVIK_COUNTRY_HEADER: country, BRAVIK_REGION_HEADER: region } = environment()
  const address = addressOf(event)
  const agent = getHeader(event, 'user-agent') ?? ''
  const languages = getHeader(event, 'accept-language') ?? ''
  const told = [country && getHeader(event, country), region && getHeader(event, region)]
  const key = [address, told[0], told[1], languages, agent].join('\n')
  const known = readBefore.get(key)
  if (known) return known
  // What a proxy was told to say goes before what a file says.
  const there = whereaboutsOf(address)
  const { device, browser } = agentOf(agent)
  const facts: Record<string, string | undefined> = {
    device,
    browser,
    language: likedLanguage(languages),
    country: told[0] || there.country,
    region: told[1] || (country ? undefined : there.region),
    address,
  }
  const read: RequestFacts = Object.fromEntries(Object.entries(facts).filter(([, value]) => value))
  if (key.length <= longestRead) readBefore.set(key, read)
  return read
}

function requestFacts(event: H3Event): RequestFacts {
  const request: RequestFacts = { ...browserFacts(event), query: {} }
  const referrer = getHeader(event, 'referer')
  if (referrer) request.referrer = referrer
  if (event.path.includes('?'))
    request.query = Object.fromEntries(
      Object.entries(getQuery(event)).map(([name, value]) => [
        name,
        String(Array.isArray(value) ? value[0] : (value ?? '')),
      ]),
    )
  return request
}

/** A visitor with all that their request says: facts that come from it too. It is asked when it comes. */
export function visitorOver(event: H3Event, book: Rulebook, visitor: Visitor): Visitor {
  const request = requestFacts(event)
  const all = book.facts
  if (!all?.length) return { ...visitor, request }
  const facts = {
    ...ownFacts(all, visitor.facts),
    ...factsOfRequest(all, {
      query: request.query ?? {},
      cookie: name => (ownCookies.has(name) ? undefined : getCookie(event, name)),
    }),
  }
  return { ...visitor, facts, request }
}
/** No fact is read from what lets somebody in. */
const ownCookies: ReadonlySet<string> = new Set([sessionCookie, knownCookie, guestCookie, basketCookie])

/** Everything about who asks, once per request: one snapshot, one visitor, one decider. */
export interface Caller {
  snapshot: Snapshot
  signedIn: SignedIn | null
  visitor: Visitor
  decider: CompiledDecider
  rights: StaffRights
  nowMs: number
  /** Codes a guest gave; the same object for as long as nothing of them moved. */ guest?: GuestCodes | undefined
}

/** What of it nobody asks for is not made: a page that stands ready takes little of it. */
class LiveCaller implements Caller {
  private over: Visitor | undefined
  private decides: CompiledDecider | undefined
  private may: StaffRights | undefined
  /** What a guest gave who is known by what their browser holds. */ guest: GuestCodes | undefined

  constructor(
    private readonly event: H3Event,
    readonly snapshot: Snapshot,
    readonly signedIn: SignedIn | null,
    readonly nowMs: number,
  ) {}

  get visitor(): Visitor {
    const { event, snapshot, signedIn } = this
    return (this.over ??= visitorOver(event, snapshot.rules.rulebook, signedIn?.visitor ?? this.guestVisitor))
  }

  private get guestVisitor(): Visitor {
    const basket = basketFromCookie(getCookie(this.event, basketCookie))
    return {
      person: null,
      ...(this.guest?.codes.length ? { codes: this.guest.codes } : {}),
      ...(basket.length ? { basket: basket.map(({ product, quantity }) => ({ product, quantity })) } : {}),
    }
  }

  get decider(): CompiledDecider {
    return (this.decides ??= new CompiledDecider(this.snapshot.rules, this.visitor, this.nowMs))
  }

  set decider(decider: CompiledDecider) {
    this.decides = decider
  }

  get rights(): StaffRights {
    return (this.may ??= rightsOf(this.decider, this.snapshot.staffRules))
  }
}

export async function callerOf(event: H3Event): Promise<Caller> {
  const known = event.context.caller as Caller | undefined
  if (known) return known
  const nowMs = clockMs()
  const token = getCookie(event, sessionCookie)
  const current = snapshotNow() ?? (await snapshot())
  const asked = token ? signedInNow(db(), token) : null
  const signedIn = asked === undefined ? await signedInBy(db(), token!) : asked
  const caller = new LiveCaller(event, current, signedIn, nowMs)
  const held = signedIn ? undefined : guestTokenOf(event)
  if (held) caller.guest = await codesInMind(db(), held)
  return (event.context.caller = caller)
}

export interface StaffCaller extends Caller {
  actor: Actor
  signedIn: SignedIn
  /** The staff role the console is looked at as: with its rights alone, and nothing is done. */
  onlyAs?: string
}

/** The caller as somebody of the staff, noted for what they call; otherwise the request ends here. */
export async function staffCaller(event: H3Event, action: string): Promise<StaffCaller> {
  const caller = seenAs(event, await personCaller(event))
  if (event.method !== 'GET' && caller.onlyAs === undefined)
    record({
      kind: 'staff',
      personId: caller.signedIn.personId,
      tier: 'staff',
      subjectKind: 'route',
      subjectId: action.replace(' ', ' /api/loft/'),
    })
  return caller
}

/** The same caller as they are inside a transaction: who was let go meanwhile ends here. */
export async function staffCallerIn(tx: AnyDb, event: H3Event): Promise<StaffCaller> {
  const token = getCookie(event, sessionCookie)
  const signedIn = token ? await sessionOf(tx, token) : null
  if (!signedIn) throw new Problem('sign-in-needed')
  const nowMs = clockMs()
  const current = await snapshot()
  const { visitor, decider, rights } = new LiveCaller(event, current, signedIn, nowMs)
  return seenAs(event, { snapshot: current, signedIn, visitor, decider, rights, nowMs, actor: actorOf(signedIn) })
}

/** Names a staff role the console is to be answered as. It only ever narrows what the caller may do. */
export const asRoleHeader = 'bravik-as-role'

/** The caller as staff, or, where they ask so, as somebody who holds one staff role and nothing else. */
function seenAs(event: H3Event, caller: StaffCaller): StaffCaller {
  if (!isStaff(caller.decider)) throw new Problem('not-allowed')
  const role = getHeader(event, asRoleHeader)
  if (role === undefined) return caller
  const { snapshot: current, decider, nowMs } = caller
  authoriseLookAsRole(caller.rights, powerOf(current), role)
  const { person, request } = decider.visitor
  const as = new CompiledDecider(
    current.rules,
    { ...(person ? { person } : {}), roles: [role], ...(request ? { request } : {}) },
    nowMs,
  )
  return { ...caller, visitor: as.visitor, decider: as, rights: rightsOf(as, current.staffRules), onlyAs: role }
}

const actorOf = ({ personId, visitor }: SignedIn): Actor => ({ id: personId, name: visitor.person?.name ?? personId })

/** The caller as somebody signed in; otherwise the request ends here. */
export async function personCaller(event: H3Event): Promise<StaffCaller> {
  const caller = await callerOf(event)
  const { signedIn } = caller
  if (!signedIn) throw new Problem('sign-in-needed')
  const { snapshot: current, visitor, decider, rights, nowMs } = caller
  return { snapshot: current, signedIn, visitor, decider, rights, nowMs, actor: actorOf(signedIn) }
}

/** The body as it is, at most `most` bytes, however it is sent; of a stranger at most 16 kB. */
export async function readBytes(event: H3Event, wanted: number): Promise<Buffer> {
  const known = (event.context.caller as Caller | undefined)?.signedIn
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

/** No database keeps U+0000 and no text is made of half a surrogate pair: refused where they come in. */
/** What rules and forms are made of is never nested deeper; what reads them goes down with them. */
const deepest = 100
const unkept = /\0|\p{Surrogate}/u

/** The value as it is, when all its texts can be kept; throws `bad-input` with the place of the first that cannot. */
export function cleanOf<T>(value: T): T {
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
