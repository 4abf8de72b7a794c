/**
 * One decider for all who come within a moment and of whom a page can see the same: guests, as a rule, are one visitor to
 * it, whatever browsers they come with. It is asked and put back before anybody waits for anything.
 */
import { looksAtRequest, requestPrint } from '../../../core/visitor/request-print'
import type { FactGroup } from '../../../core/visitor/fact-group'
import { CompiledDecider } from '../../../core/gates/compiled-decider'
import type { Caller } from '../../request/caller'
import type { Snapshot } from '../live/snapshot'

/** Milliseconds: as long as what was known of the live edition is answered from. */
const momentMs = 250
/** Characters. What a stranger made long is nobody else's. */
const longestPrint = 500

interface Moment {
  at: number
  snapshot: Snapshot
  byPrint: WeakMap<object, Map<string, CompiledDecider>>
}
const guests = {}
let moment: Moment | undefined

/** `looks`: all the page turns on. The caller's own where nobody else can be like them. */
export function momentDecider(caller: Caller, looks: ReadonlySet<FactGroup>): CompiledDecider {
  const { snapshot, nowMs } = caller
  const at = Math.floor(nowMs / momentMs)
  if (moment?.at !== at || moment.snapshot !== snapshot) moment = { at, snapshot, byPrint: new WeakMap() }
  const print = printOf(caller, looks)
  if (print.length > longestPrint) return caller.decider
  const { byPrint } = moment
  // Whoever is signed in is remembered as one object, and as another once anything about them moved.
  const who = caller.signedIn ?? caller.guest ?? guests
  let alike = byPrint.get(who)
  if (!alike) byPrint.set(who, (alike = new Map()))
  let decider = alike.get(print)
  if (!decider) alike.set(print, (decider = new CompiledDecider(snapshot.rules, caller.visitor, nowMs)))
  return decider
}

/** For whoever finds that a service is to be asked first: nobody goes on from there. */
export function endMoment(): void {
  moment = undefined
}

function printOf(caller: Caller, looks: ReadonlySet<FactGroup>): string {
  const { facts = [] } = caller.snapshot.rules.rulebook
  const ofRequest = facts.some(one => one.from && !('service' in one.from)) ? JSON.stringify(caller.visitor.facts) : ''
  // A guest's basket comes with their request; of whoever is signed in it is a part of what is remembered.
  const said = ofRequest + (caller.signedIn ? '' : JSON.stringify(caller.visitor.basket ?? ''))
  if (!looksAtRequest(looks)) return said
  return `${said} ${[...looks].join()} ${requestPrint(caller.visitor.request, looks)}`
}
