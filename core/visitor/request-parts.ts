/** What a request brings besides its time: each part once, and everything that must know them all follows from here. */
import { z } from 'zod'
import { devices } from '../shapes'
import type { FactGroup } from './fact-group'

interface RequestPart {
  /** By looking at what a rule sees it, and so what an answer that turned on it may be kept by. */
  looksAt: FactGroup
  /** Of a part that is a word: what there is besides those that are named, or one nobody names, which stands for all others. */
  others?: readonly string[]
  /** Of a word: large and small letters are the same. */
  folds?: true
}

const brought = {
  device: { looksAt: 'device', others: devices },
  browser: { looksAt: 'device', others: ['another browser'] },
  country: { looksAt: 'country', others: ['AQ'] },
  region: { looksAt: 'country', others: ['AQ-01'] },
  language: { looksAt: 'language', others: ['zu'], folds: true },
  referrer: { looksAt: 'referrer', others: ['elsewhere.example'], folds: true },
  address: { looksAt: 'address' },
  query: { looksAt: 'query' },
} as const satisfies Record<string, RequestPart>

export type RequestPartKey = keyof typeof brought
/** All but the query are texts. */
export type TextPart = Exclude<RequestPartKey, 'query'>
/** Texts that are compared as they are. */
export type WordPart = {
  [K in TextPart]: (typeof brought)[K] extends { others: readonly string[] } ? K : never
}[TextPart]

export const requestParts: Readonly<Record<RequestPartKey, RequestPart>> = brought
export const requestPartKeys = Object.keys(brought) as RequestPartKey[]
export const textParts = requestPartKeys.filter((key): key is TextPart => key !== 'query')
export const wordParts = textParts.filter((key): key is WordPart => requestParts[key].others !== undefined)

const text = z.string().optional()
/** The shape of each. */
export const requestShape = {
  ...(Object.fromEntries(textParts.map(key => [key, text])) as Record<TextPart, typeof text>),
  query: z.record(z.string(), z.string()).optional(),
}
