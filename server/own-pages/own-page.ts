/** A page the application answers itself, with its form: what it shows, and what sending the form does. */
import type { H3Event } from 'h3'
import type { OwnPagePath } from '../../core/site/own-addresses'
import type { Caller } from '../request/caller'
import type { Problem } from '../problem'
import { wordOf } from './own-words'
import type { OwnProblem } from './own-words'

declare module 'h3' {
  interface H3EventContext {
    /** What a page of the application's own shows. */
    own?: OwnView<object>
  }
}

export interface OwnAsk {
  event: H3Event
  caller: Caller
  /** What follows the page's own path, such as the reference behind `/pay/`. */
  rest: string[]
  query: Record<string, string>
}

/** Problems by field; the empty key is about the form as a whole. What was typed comes back, passwords aside. */
export interface Refused {
  problems: Record<string, OwnProblem>
  values: Record<string, string>
  status: number
}
export type Acted = { to: string } | Refused

export interface OwnPage<D extends object = object> {
  path: OwnPagePath
  /** It has a script of its own, without which it works as well. */ script?: true
  /** Only for somebody signed in; others are sent to sign in and come back. */
  signedIn?: true | ((ask: OwnAsk) => Promise<boolean>)
  load(ask: OwnAsk): Promise<D>
  /**
   * Looks at all that `act` decides by and changes nothing, so that services are asked before. Default: what `load` looks at.
   */
  asks?(ask: OwnAsk, form: Record<string, string>): Promise<unknown>
  act?(ask: OwnAsk, form: Record<string, string>): Promise<Acted>
}

/** What the page is rendered from. */
export interface OwnView<D extends object = object> {
  data: D
  problems: Record<string, OwnProblem>
  values: Record<string, string>
  /** It could not be shown at all. */ failed?: OwnProblem
}

const secret = /password|token/i
export const refused = (problems: Record<string, OwnProblem>, form: Record<string, string>, status = 422): Refused => ({
  problems,
  values: Object.fromEntries(Object.entries(form).filter(([key]) => !secret.test(key))),
  status,
})

/** A problem of a service, told at the field it names. */
export const refusedBy = (problem: Problem, form: Record<string, string>): Refused =>
  refused(
    { [typeof problem.extra.at === 'string' ? problem.extra.at.slice(1) : '']: wordOf(problem) },
    form,
    problem.statusCode,
  )
