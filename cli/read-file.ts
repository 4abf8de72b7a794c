/** Reads JSON files for the command; what is wrong with one is named by file and line. */
import { readFileSync } from 'node:fs'
import { parse } from 'jsonc-parser'
import type { ParseError } from 'jsonc-parser'

export class FileProblem extends Error {}

export function readJsonFile(file: string): unknown {
  let text: string
  try {
    text = readFileSync(file, 'utf8')
  } catch (error) {
    throw new FileProblem(`${file}: cannot be read (${(error as NodeJS.ErrnoException).code ?? 'unknown'}).`)
  }
  try {
    return JSON.parse(text)
  } catch (error) {
    const before = text.slice(0, firstError(text)).split('\n')
    throw new FileProblem(
      `${file}:${before.length}:${before.at(-1)!.length + 1}: not JSON: ${(error as Error).message.split('\n')[0]}`,
    )
  }
}

/** JSON.parse does not always say where it stopped; this parser does. */
function firstError(text: string): number {
  const errors: ParseError[] = []
  parse(text, errors, { disallowComments: true })
  return errors[0]?.offset ?? text.length
}
