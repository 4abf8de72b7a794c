import { usesOf } from '~~/core/check/uses'
import type { EntryKind, Rulebook } from '~~/core/rulebook/rulebook'
import type { SiteIndex } from '~~/core/site/site-index'

/** What depends on an entry of the rules, each as a person would name it. */
export function usersInWords(book: Rulebook, site: SiteIndex, entry: { kind: EntryKind; id: string }): string[] {
  return usesOf(book, site, entry).map(({ kind, id, name }) => {
    if (!name) return `the site's ${kind}`
    return kind === 'landing' ? `landing to ${book.landings?.find(one => one.id === id)?.to ?? id}` : `${kind} ${name}`
  })
}
