/** What parts of pages are called, for whoever writes them. */
import type { Treatment } from '~~/core/rulebook/gate'
import type { Lexicon } from '~~/core/sentences/lexicon'
import { sayTreatment } from '~~/core/sentences/say'
import { appBlockOf } from '~/blocks/blocks'

interface Part {
  kind?: unknown
  title?: unknown
  body?: unknown
}

const mostLetters = 40
/** The first words of a text, without the marks of its language. */
export function firstWords(markdown: string, most = mostLetters): string {
  const plain = markdown
    .replaceAll(/[*_`#>|~]/g, '')
    .replaceAll(/\[([^\]]*)\]\([^)]*\)/g, '$1')
    .replaceAll(/\s+/g, ' ')
    .trim()
  if (plain.length <= most) return plain
  return `${plain.slice(0, plain.lastIndexOf(' ', most) > 10 ? plain.lastIndexOf(' ', most) : most)}…`
}

/** Its heading, else its first words, else what kind it is. */
export function partName(part: Part): string {
  const title = typeof part.title === 'string' ? part.title.trim() : ''
  if (title) return title
  const own = appBlockOf(String(part.kind ?? ''))
  const words = own.words?.((part.body ?? {}) as Record<string, unknown>)
  return (words && firstWords(words)) || own.name
}

/** What stands in place of what is refused, after “In its place:”. */
export const insteadWords = (treatment: Treatment | undefined, lexicon: Lexicon): string =>
  treatment && !('absent' in treatment) ? sayTreatment(treatment, lexicon) : ''
