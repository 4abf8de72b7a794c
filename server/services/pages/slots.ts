/**
 * Words that are a visitor's own, kept apart from the view: the rendered page
 * has marks for them, and may be kept for everybody who gets the same view;
 * the words are put in when it is sent.
 */
import { hash, randomBytes } from 'node:crypto'
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import { levelShown } from '../../../core/rulebook/public-name'
import type { SlotName } from '../../../core/pages/made-from/page-source'
import { basketCountWords } from '../../../core/pages/goods/basket-count'
import { wayBack } from '../../../core/site/way-back'

declare module 'h3' {
  interface H3EventContext {
    /** The visitor's own words, filled into what is sent. */
    slots?: Slots
  }
}

const slotNames = ['name', 'roles', 'levels', 'firm', 'back', 'basket'] as const satisfies readonly SlotName[]

// Private-use characters around something nobody can guess: no content can hold a mark.
const [start, end] = [`\uE000${randomBytes(9).toString('base64url')}:`, '\uE001']
const marks = new RegExp(`${start}(${slotNames.join('|')})${end}`, 'g')

export interface Slots {
  /** Stands for the word in a view. */
  mark(name: SlotName): string
  /** Whether the view has a place for any. */
  readonly used: boolean
  /** Equal where the words are. */
  readonly fingerprint: string
  /** HTML with the words in their places. */
  fill(html: string): string
  /** The same of a page that was cut at its marks. */
  fillPieces(pieces: Pieces): Buffer
}
/** HTML cut at its marks: by turns what is everybody's, in bytes, and the name of a word. */
export type Pieces = readonly (Buffer | SlotName)[]
export const cutAtMarks = (html: string): Pieces =>
  html.split(marks).map((piece, i) => (i % 2 ? (piece as SlotName) : Buffer.from(piece, 'utf8')))

const escaped = (text: string) => text.replace(/[&<>"']/g, char => `&#${char.charCodeAt(0)};`)

/** `path`: where whoever asks is, for the way back. */
export function slotsOf(
  decider: CompiledDecider,
  firms: readonly { id: string; name: string }[] = [],
  path = '',
): Slots {
  let used = false
  const words: Record<SlotName, () => string> = {
    name: () => decider.person?.name ?? '',
    roles: () => {
      const { asker, rules } = decider
      const nameOf = (role: string) => rules.rulebook.roles?.find(one => one.id === role)?.name ?? role
      return [...asker.roles].map(nameOf).join(', ')
    },
    levels: () => {
      const { asker, rules } = decider
      const told = (rules.rulebook.levels ?? []).filter(level => asker.levels.has(level.id)).map(levelShown)
      return told.filter(name => name !== null).join(', ')
    },
    firm: () => firms.find(one => one.id === decider.asker.firm)?.name ?? '',
    back: () => wayBack(path),
    basket: () => basketCountWords(decider.visitor.basket),
  }
  return {
    mark: name => {
      used = true
      return `${start}${name}${end}`
    },
    get used() {
      return used
    },
    get fingerprint() {
      return hash('sha256', JSON.stringify(slotNames.map(name => words[name]())), 'base64url').slice(0, 16)
    },
    fillPieces: pieces =>
      Buffer.concat(
        pieces.map(piece => (typeof piece === 'string' ? Buffer.from(escaped(words[piece]()), 'utf8') : piece)),
      ),
    fill: html => html.replace(marks, (_, name: SlotName) => escaped(words[name]())),
  }
}
