/**
 * Conditions and gates as sentences: tokens a screen can show and edit, whose
 * texts joined by spaces are what `read` understands.
 */
import { keyOf } from '../conditions/condition'
import type { Condition, LeafKey } from '../conditions/condition'
import type { DimmedPart, Gate, Otherwise, Treatment } from '../rulebook/gate'
import type { Right } from '../kinds/kinds'
import { phrasesOf } from './phrases'
import { rightLeads } from './words'
import type { Lexicon } from './lexicon'
import { written } from './lexicon'

export type TokenType = 'leaf' | 'not' | 'join' | 'open' | 'close' | 'whole'
export interface Token {
  type: TokenType
  text: string
  /** Where in the condition it stands; for joins and brackets, the part they belong to. */
  path: (string | number)[]
}

/** The tokens of a condition. `whole` is an `all` or `any` with no parts or one. */
export function say(condition: Condition, lexicon: Lexicon): Token[] {
  return tokensOf(condition, lexicon, [])
}

/** Tokens with a space between, none inside brackets. */
export function textOf(tokens: readonly Token[]): string {
  return tokens
    .map((token, i) => (i === 0 || token.type === 'close' || tokens[i - 1]!.type === 'open' ? '' : ' ') + token.text)
    .join('')
}

export const sayText = (condition: Condition, lexicon: Lexicon) => textOf(say(condition, lexicon))

function tokensOf(node: Condition, lexicon: Lexicon, path: (string | number)[]): Token[] {
  const [key, argument] = keyOf(node)
  if (key === 'not')
    return [{ type: 'not', text: 'not', path }, ...bracketed(argument as Condition, lexicon, [...path, 'not'])]
  if (key !== 'all' && key !== 'any') return [{ type: 'leaf', text: leafText(key, argument, lexicon), path }]
  const parts = argument as Condition[]
  if (parts.length === 0) return [{ type: 'whole', text: `${key} of nothing`, path }]
  if (parts.length === 1)
    return [
      { type: 'whole', text: `${key} of`, path },
      ...inBrackets(tokensOf(parts[0]!, lexicon, [...path, key, 0]), path),
    ]
  return parts.flatMap((part, i) => [
    ...(i ? [{ type: 'join' as const, text: key === 'all' ? 'and' : 'or', path }] : []),
    ...bracketed(part, lexicon, [...path, key, i]),
  ])
}

const inBrackets = (tokens: Token[], path: (string | number)[]): Token[] => [
  { type: 'open', text: '(', path },
  ...tokens,
  { type: 'close', text: ')', path },
]

function bracketed(node: Condition, lexicon: Lexicon, path: (string | number)[]): Token[] {
  const [key, argument] = keyOf(node)
  const tokens = tokensOf(node, lexicon, path)
  return (key === 'all' || key === 'any') && (argument as Condition[]).length > 1 ? inBrackets(tokens, path) : tokens
}

function leafText(key: LeafKey, argument: unknown, lexicon: Lexicon): string {
  return phrasesOf(key).say(argument, lexicon)
}

export interface SaidRight {
  right: Right
  lead: string
  tokens: Token[]
}
export interface SaidGate {
  rights: SaidRight[]
  /** `otherwise` of guests and of people signed in; equal when the gate does not tell them apart. */ otherwise?: {
    guest?: string
    signedIn?: string
  }
}

const order: Right[] = ['open', 'find', 'search', 'price', 'take']

/** A gate as a sentence for each right it states, and its otherwise. */
export function sayGate(gate: Gate, lexicon: Lexicon): SaidGate {
  const said = order.flatMap(right =>
    gate[right] ? [{ right, lead: rightLeads[right], tokens: say(gate[right], lexicon) }] : [],
  )
  return { rights: said, ...(gate.otherwise ? { otherwise: sayOtherwise(gate.otherwise, lexicon) } : {}) }
}

/** What guests and people signed in get who are refused. */
export function sayOtherwise(otherwise: Otherwise, lexicon: Lexicon): { guest?: string; signedIn?: string } {
  if (!('guest' in otherwise) && !('signedIn' in otherwise)) {
    const text = sayTreatment(otherwise as Treatment, lexicon)
    return { guest: text, signedIn: text }
  }
  const { guest, signedIn } = otherwise as { guest?: Treatment; signedIn?: Treatment }
  return {
    ...(guest ? { guest: sayTreatment(guest, lexicon) } : {}),
    ...(signedIn ? { signedIn: sayTreatment(signedIn, lexicon) } : {}),
  }
}

export const dimmedWords: Record<DimmedPart, string> = {
  heading: 'heading',
  words: 'first words',
  label: 'label',
  picture: 'picture’s outline',
  sight: 'picture itself',
}
const joined = (words: readonly string[]) => words.join(', ').replace(/, ([^,]*)$/, ' and $1')

export function sayTreatment(treatment: Treatment, lexicon: Lexicon): string {
  if ('notice' in treatment) return `notice “${treatment.notice.text}”`
  if ('swap' in treatment) return `the part ${written(lexicon.things.block, treatment.swap.block)} instead`
  if ('redirect' in treatment) return `redirect to ${treatment.redirect.to}`
  if ('dimmed' in treatment && treatment.dimmed !== true)
    return `dimmed, with its ${joined(treatment.dimmed.keep.map(one => dimmedWords[one]))}`
  return Object.keys(treatment)[0]!
}
