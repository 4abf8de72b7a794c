/** What only somebody admitted is shown of versions, as the console told it. */
import type { ToldContent } from './questions'

export type Content = Record<string, unknown>
/** Contents by version and revision, as they were told; what was not asked for the longest goes first. */
export const told = new Map<string, Content | null>()
const mostTold = 20_000

export function takeContents(contents: readonly ToldContent[]): void {
  for (const { id, revision, content } of contents) told.set(`${id}.${revision}`, content)
  for (const name of told.keys()) if (told.size > mostTold) told.delete(name)
}
