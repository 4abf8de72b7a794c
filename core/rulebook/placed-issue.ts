/** Issues with the entry they stand in, so that a person can find them. */
import type { Issue } from '../errors'
import { pathOf } from '../pointer'
import { entryKinds } from './rulebook'
import type { EntryKind, Rulebook } from './rulebook'

export interface PlacedEntry { kind: EntryKind, id: string, name: string }
export interface PlacedIssue extends Issue { entry?: PlacedEntry }

/** Issues of `book`, each with its entry where it stands in one that has an id. */
export function placeIssues(book: Rulebook, issues: Issue[]): PlacedIssue[] {
  return issues.map((issue) => {
    const path = pathOf(issue.at)
    const kind = (Object.keys(entryKinds) as EntryKind[]).find(one => entryKinds[one].at.every((key, i) => path[i] === key) && !('single' in entryKinds[one]))
    if (!kind) return issue
    const list = entryKinds[kind].at.reduce<unknown>((node, key) => (node as Record<string, unknown>)?.[key], book) as { id: string, name?: string }[]
    const entry = list?.[Number(path[entryKinds[kind].at.length])]
    return entry ? { ...issue, entry: { kind, id: entry.id, name: entry.name ?? entry.id } } : issue
  })
}
