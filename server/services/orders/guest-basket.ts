/** A guest's basket, in their browser: signed, so that nobody makes up what they were told. */
import { z } from 'zod'
import { Problem } from '../../problem'
import { isSignature, signature } from '../secrets/tokens'
import { mostPieces } from './lines'
import type { KeptLine } from './lines'

export const basketCookie = 'bravik_basket'
/** Browsers keep cookies of four kilobytes. */
const longest = 3600

const kept = z.array(z.tuple([z.string().min(1).max(200), z.int().min(1).max(mostPieces), z.int().min(0).nullable()]))

/** Throws `basket-full` where it is more than a browser keeps. */
export function basketToCookie(lines: readonly KeptLine[]): string {
  const body = Buffer.from(
    JSON.stringify(lines.map(({ product, quantity, seen }) => [product, quantity, seen])),
  ).toString('base64url')
  if (body.length > longest) throw new Problem('basket-full')
  return `${body}.${signature('basket', body)}`
}

/** Empty for anything that is not ours. */
export function basketFromCookie(cookie: string | undefined): KeptLine[] {
  const [body = '', given = '', ...rest] = (cookie ?? '').slice(0, longest + 100).split('.')
  if (rest.length || !body || !isSignature('basket', body, given)) return []
  try {
    const lines = kept.safeParse(JSON.parse(Buffer.from(body, 'base64url').toString('utf8'))).data ?? []
    return lines.map(([product, quantity, seen]) => ({ product, quantity, seen }))
  } catch {
    return []
  }
}
