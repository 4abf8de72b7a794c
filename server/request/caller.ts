/** Who asks: one snapshot, one visitor, one decider for each request. */
import type { H3Event } from 'h3'
import { getCookie } from 'h3'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import type { StaffRights } from '../../core/staff/staff-rule'
import type { Visitor } from '../../core/visitor/visitor'
import { clockMs } from '../clock'
import { db } from '../db/database'
import { environment } from '../environment'
import { sessionCookie, signedInBy, signedInNow } from '../services/entrance/sessions'
import type { SignedIn } from '../services/entrance/sessions'
import { snapshot, snapshotNow } from '../services/live/snapshot'
import type { Snapshot } from '../services/live/snapshot'
import { basketCookie, basketFromCookie } from '../services/orders/guest-basket'
import { codesInMind, guestTokenOf } from '../services/shop/guest-codes'
import type { GuestCodes } from '../services/shop/guest-codes'
import { rightsOf } from '../services/staff/authorise'
import { visitorOver } from './facts'

declare module 'h3' {
  interface H3EventContext {
    caller?: Caller
  }
}

/** Who an answer is for, as far as that decides who may keep it. */
export const keepingAsk = ({ signedIn }: Pick<Caller, 'signedIn'>) => ({
  guest: !signedIn,
  sharedSeconds: environment().BRAVIK_SHARED_SECONDS,
})

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
export class LiveCaller implements Caller {
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
  const known = event.context.caller
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
