/**
 * Services outside that facts are asked of. Rules name one; where it is only the environment says, so that nobody who
 * writes rules can make the server call addresses of their choice. An answer is kept a while, a failure shortly; while
 * a service hangs, answers nonsense or too much, what it would say is unknown.
 */
import { LRUCache } from 'lru-cache'
import { factValue, filledPath, usualKeepSeconds, usualWithinMs, valueAt } from '../../../core/visitor/fact-source'
import type { FactValue, PathPlace, ServiceSource } from '../../../core/visitor/fact-source'
import { clockMs } from '../../clock'
import { environment } from '../../environment'
import { log } from '../../log'
import { readBounded } from '../../read-bounded'

/** Bytes of an answer that are read at most. */
const mostBytes = 65_536
const failureKeepMs = 5000
/** Asked for at once, of one service: more wait for nobody and are unknown. */
const mostAtOnce = 50

export interface ServiceFact {
  id: string
  type: string
  choices?: readonly string[] | undefined
  from: ServiceSource
}
export type AskedFact =
  | { value: FactValue; ms: number }
  /** Why it is unknown. */
  | {
      value: undefined
      ms: number
      why:
        | 'no-service'
        | 'not-known'
        | 'too-slow'
        | 'unreachable'
        | 'status'
        | 'too-large'
        | 'no-json'
        | 'nothing-there'
        | 'no-fit'
        | 'busy'
    }

const kept = new LRUCache<string, { found: AskedFact; until: number }>({ max: 20_000 })
const underWay = new Map<string, Promise<AskedFact>>()
const atOnce = new Map<string, number>()

let standIn: { name: string; url: string } | undefined
/** The bundled service of the demo, or none. */
export function useServiceStandIn(given: typeof standIn): void {
  standIn = given
}
/** Services by name, and where each is. */
export function knownServices(): ReadonlyMap<string, string> {
  const { BRAVIK_FACT_SERVICES: named } = environment()
  return new Map([...(standIn ? [[standIn.name, standIn.url] as const] : []), ...(named ?? [])])
}

/** What a service says of somebody. Never throws. `fresh` asks anew whatever is kept. */
export async function askService(
  fact: ServiceFact,
  known: Partial<Record<PathPlace, string | undefined>>,
  fresh = false,
): Promise<AskedFact> {
  const { from } = fact
  const base = knownServices().get(from.service)
  if (!base) return { value: undefined, ms: 0, why: 'no-service' }
  const path = filledPath(from.path, known)
  if (path === null) return { value: undefined, ms: 0, why: 'not-known' }
  const url = base.replace(/\/+$/, '') + path
  const key = JSON.stringify([url, from.at, fact.type, fact.choices])
  const before = kept.get(key)
  if (!fresh && before && before.until > clockMs()) return before.found
  const already = underWay.get(key)
  if (already) return already
  if ((atOnce.get(from.service) ?? 0) >= mostAtOnce) return { value: undefined, ms: 0, why: 'busy' }
  atOnce.set(from.service, (atOnce.get(from.service) ?? 0) + 1)
  const work = ask(url, fact).then(found => {
    const keepMs = found.value === undefined ? failureKeepMs : (from.keepSeconds ?? usualKeepSeconds) * 1000
    kept.set(key, { found, until: clockMs() + keepMs })
    if (found.value === undefined && !['nothing-there', 'no-fit'].includes(found.why))
      log().warn({ service: from.service, fact: fact.id, why: found.why, ms: found.ms }, 'a fact is unknown')
    return found
  })
  underWay.set(key, work)
  return work.finally(() => {
    underWay.delete(key)
    atOnce.set(from.service, (atOnce.get(from.service) ?? 1) - 1)
  })
}

async function ask(url: string, fact: ServiceFact): Promise<AskedFact> {
  const start = performance.now()
  const ms = () => Math.round(performance.now() - start)
  const unknown = (why: Extract<AskedFact, { value: undefined }>['why']): AskedFact => ({
    value: undefined,
    ms: ms(),
    why,
  })
  const signal = AbortSignal.timeout(fact.from.withinMs ?? usualWithinMs)
  try {
    const answer = await fetch(url, { signal, redirect: 'error', headers: { accept: 'application/json' } })
    if (answer.status !== 200) {
      await answer.body?.cancel()
      return unknown('status')
    }
    const bytes = await readBounded(answer.body, mostBytes, signal)
    if (!bytes) return unknown('too-large')
    let document: unknown
    try {
      document = JSON.parse(bytes.toString('utf8'))
    } catch {
      return unknown('no-json')
    }
    const given = valueAt(document, fact.from.at)
    if (given === undefined || given === null) return unknown('nothing-there')
    const value = factValue(fact, given)
    return value === undefined || (typeof value === 'string' && value.length > 1000)
      ? unknown('no-fit')
      : { value, ms: ms() }
  } catch {
    return unknown(signal.aborted ? 'too-slow' : 'unreachable')
  }
}
