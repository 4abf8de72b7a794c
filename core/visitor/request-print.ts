/** What of a request answers can depend on, as something to compare: equal where nobody who looks at no more can tell two apart. */
import type { FactGroup } from './fact-group'
import type { Visitor } from './visitor'

export type RequestFacts = NonNullable<Visitor['request']>

/** Each part of a request, and by looking at what a rule sees it. */
export const requestParts = [
  ['device', 'device'],
  ['browser', 'device'],
  ['country', 'country'],
  ['region', 'country'],
  ['language', 'language'],
  ['address', 'address'],
  ['referrer', 'referrer'],
  ['query', 'query'],
] as const satisfies [keyof RequestFacts, FactGroup][]

/** Whether it takes a request at all to answer. */
export const looksAtRequest = (looks: ReadonlySet<FactGroup>) => requestParts.some(([, group]) => looks.has(group))

export const requestPrint = (request: RequestFacts | undefined, looks: ReadonlySet<FactGroup>): string =>
  JSON.stringify(requestParts.map(([part, group]) => (looks.has(group) ? request?.[part] : undefined)))
