/** What of a request answers can depend on, as something to compare: equal where nobody who looks at no more can tell two apart. */
import type { FactGroup } from './fact-group'
import { requestPartKeys, requestParts } from './request-parts'
import type { Visitor } from './visitor'

export type RequestFacts = NonNullable<Visitor['request']>

/** Whether it takes a request at all to answer. */
export const looksAtRequest = (looks: ReadonlySet<FactGroup>) =>
  requestPartKeys.some(part => looks.has(requestParts[part].looksAt))

export const requestPrint = (request: RequestFacts | undefined, looks: ReadonlySet<FactGroup>): string =>
  JSON.stringify(requestPartKeys.map(part => (looks.has(requestParts[part].looksAt) ? request?.[part] : undefined)))
