/** Issues with the entry they stand in, so that a person can find them. */
import type { Issue } from '../errors'
import { pathOf } from '../pointer'
import { entryKinds, singleKey } from '../rulebook/rulebook'
import type { EntryKind, Rulebook } from '../rulebook/rulebook'

/** Of settings, which have no name, `name` is empty. */
export interface PlacedEntry {
  kind: EntryKind
  id: string
  name: string
}
export interface PlacedIssue extends Issue {
  entry?: PlacedEntry
}

/** Issues of `book`, each with its entry where it stands in one. */
export function placeIssues(book: Rulebook, issues: Issue[]): PlacedIssue[] {
  return issues.map(issue => {
    const path = pathOf(issue.at)
    const kind = (Object.keys(entryKinds) as EntryKind[]).find(one =>
      entryKinds[one].at.every((key, i) => path[i] === key),
    )
    const entry = kind && entryAt(book, kind, path)
    return entry ? { ...issue, entry } : issue
  })
}

function entryAt(book: Rulebook, kind: EntryKind, path: readonly string[]): PlacedEntry | undefined {
  if ('single' in entryKinds[kind]) return { kind, id: singleKey, name: '' }
  const list = entryKinds[kind].at.reduce<unknown>((node, key) => (node as Record<string, unknown>)?.[key], book) as {
    id: string
    name?: string
  }[]
  const found = list?.[Number(path[entryKinds[kind].at.length])]
  return found && { kind, id: found.id, name: found.name ?? found.id }
}
