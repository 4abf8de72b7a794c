/** What depends on an entry of the rules: everything that would be wrong without it. */
import { placeIssues } from './placed-issue'
import type { PlacedEntry } from './placed-issue'
import { entriesOf, rulebookOf } from '../rulebook/rulebook'
import type { EntryKind, Rulebook } from '../rulebook/rulebook'
import { validateRulebook } from './validate'
import type { Site } from '../site/site'
import type { SiteIndex } from '../site/site-index'

/**
 * The entries of `book` that need the one of this kind and id, each once, in
 * rulebook order; those that are wrong anyway are not counted. Found by the
 * very check that refuses its removal, so that the two never differ.
 */
export function usesOf(
  book: Rulebook,
  site: Site | SiteIndex,
  { kind, id }: { kind: EntryKind; id: string },
): PlacedEntry[] {
  const without = rulebookOf(entriesOf(book).filter(entry => !(entry.kind === kind && entry.key === id)))
  const known = new Set(named(book, site).map(({ key }) => key))
  const users = new Map(
    named(without, site).flatMap(({ key, entry }) =>
      entry && !known.has(key) ? [[`${entry.kind} ${entry.id}`, entry] as const] : [],
    ),
  )
  return [...users.values()]
}

/** Issues by code and entry: taking one entry out moves the positions of the others. */
function named(book: Rulebook, site: Site | SiteIndex) {
  return placeIssues(book, validateRulebook(book, site)).map(({ code, found, entry }) => ({
    key: JSON.stringify([code, found, entry?.kind, entry?.id]),
    entry,
  }))
}
