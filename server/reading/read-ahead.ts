/** The text of what is given, read before anything is locked: whoever saves finds it read. */
import { textOf } from '../../core/pages/text-of'
import { Problem } from '../problem'
import { readTextBeside } from './reading'
import type { TextReading } from '../../core/texts/passages'

/** Throws `text-too-slow`, at the text. */
export async function readTextIn(thing: object): Promise<TextReading | undefined> {
  const text = textOf(thing)
  const reading = text === undefined ? undefined : await readTextBeside(text)
  if (reading !== 'too long') return reading
  throw new Problem('text-too-slow', {}, { at: (thing as { words?: unknown }).words === text ? '/words' : '/body' })
}

export const readAhead = async (given: object): Promise<void> => void (await readTextIn(given))
