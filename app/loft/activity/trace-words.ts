import { isEntryKind } from '~~/core/editions/contents'
import type { VersionedKind } from '~~/core/editions/contents'
import type { Kept } from '~~/core/kinds/kinds'
import { kindNames } from '~~/core/sentences/words'
import { appKindOf } from '~/kinds/kinds'
import type { Loft } from '~/loft/core/place'

/** What it was done to: in words, and where it can be looked at. */
export function traceSubject(subject: string, loft: Loft, name?: string | null): { words: string; to?: string } {
  const space = subject.indexOf(' ')
  const [kind, id] = space < 0 ? [subject, ''] : [subject.slice(0, space), subject.slice(space + 1)]
  if (kind === 'person') return { words: name ?? `person ${id}`, to: `/loft/people/${encodeURIComponent(id)}` }
  if (kind === 'firm')
    return { words: `firm ${name ? `“${name}”` : id}`, to: `/loft/groups/firm/${encodeURIComponent(id)}` }
  const body = loft.contents.get(kind as VersionedKind, id)?.body as Record<string, unknown> | undefined
  const title = body && (isEntryKind(kind) ? body.name : appKindOf(kind).title(body))
  const of = Object.hasOwn(kindNames, kind) ? kindNames[kind as Kept] : kind
  return { words: `${of} ${title ? `“${title}”` : id}`.trim() }
}
