import { diffWordsWithSpace } from 'diff'

export interface ComparedPart {
  text: string
  in?: true
  out?: true
}
export interface ComparedField {
  field: string
  parts: ComparedPart[]
}

/** More words around a change than this are left out. */
const context = 60

const inWords = (value: unknown): string =>
  value === undefined || value === null
    ? ''
    : Array.isArray(value) && value.every(one => typeof one === 'string')
      ? value.join(', ')
      : typeof value === 'string'
        ? value
        : JSON.stringify(value, null, 1)

/** Texts inside a body, each by where it stands; everything else as it is written. */
function fieldsOf(thing: Record<string, unknown> | null): Map<string, string> {
  const fields = new Map<string, string>()
  for (const [key, value] of Object.entries(thing ?? {})) {
    if (key === 'id') continue
    if (typeof value === 'object' && value !== null && !Array.isArray(value))
      for (const [inner, one] of Object.entries(value)) fields.set(`${key} ${inner}`, inWords(one))
    else fields.set(key, inWords(value))
  }
  return fields
}

/** What differs between two states of a thing, field by field; null is nothing. */
export function comparedWords(
  before: Record<string, unknown> | null,
  after: Record<string, unknown> | null,
): ComparedField[] {
  const [then, now] = [fieldsOf(before), fieldsOf(after)]
  return [...new Set([...then.keys(), ...now.keys()])].flatMap(field => {
    const [a, b] = [then.get(field) ?? '', now.get(field) ?? '']
    if (a === b) return []
    const parts = diffWordsWithSpace(a, b)
    return [
      {
        field,
        parts: parts.map(({ value, added, removed }, i): ComparedPart => ({
          text: added || removed ? value : clipped(value, i === 0, i === parts.length - 1),
          ...(added ? { in: true as const } : {}),
          ...(removed ? { out: true as const } : {}),
        })),
      },
    ]
  })
}

function clipped(text: string, first: boolean, last: boolean): string {
  if (text.length <= 2 * context) return text
  return `${first ? '' : text.slice(0, context)} … ${last ? '' : text.slice(-context)}`
}
