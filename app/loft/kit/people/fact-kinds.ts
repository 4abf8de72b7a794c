import type { Fact } from '~~/core/rulebook/people-rules'
import type { Rulebook } from '~~/core/rulebook/rulebook'
import { slug } from '~~/core/site/slug'

export const factTypes: Record<Fact['type'], string> = {
  text: 'words',
  number: 'a number',
  date: 'a date',
  flag: 'yes or no',
  choice: 'one of',
  vatNumber: 'a VAT number',
}

export const choicesIn = (typed: string): string[] =>
  typed
    .split(',')
    .map(one => one.trim())
    .filter(Boolean)

/** A new fact as it was typed, or what is missing of it. */
export function freshFact(typed: { name: string; type: Fact['type']; choices: string }, book: Rulebook): Fact | string {
  const id = slug(typed.name)
  const choices = choicesIn(typed.choices)
  if (!id) return 'A name needs a letter or a digit.'
  if (book.facts?.some(one => one.id === id)) return `There is “${id}” already.`
  if (typed.type === 'choice' && !choices.length) return 'Say what can be chosen, parted by commas.'
  return { id, name: typed.name, type: typed.type, ...(typed.type === 'choice' ? { choices } : {}) }
}
