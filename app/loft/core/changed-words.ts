/** What a change of the draft is about, in a few words. */
import { isEntryKind } from '~~/core/editions/contents'
import type { VersionedKind } from '~~/core/editions/contents'
import type { EntryKind } from '~~/core/rulebook/rulebook'
import { kindNames } from '~~/core/sentences/words'
import type { DraftChange, SavedChanges } from './loft-api'

interface Body {
  name?: string
  title?: string
  label?: string
}
export const changeName = ({ key, before, after }: Pick<DraftChange, 'key' | 'before' | 'after'>): string => {
  const { name, title, label } = (after ?? before ?? {}) as Body
  return name ?? title ?? label ?? key
}

/** Rules whose kind is called otherwise than in a rulebook. */
const ruleNames: Partial<Record<EntryKind, string>> = {
  delivery: 'way of delivery',
  exception: 'other rate',
  goods: 'goods taxed otherwise',
  shown: 'prices shown otherwise',
  'tax-settings': 'how tax is dealt with',
}
export const changeKind = ({ kind }: Pick<DraftChange, 'kind'>): string =>
  isEntryKind(kind) ? (ruleNames[kind] ?? kind) : kindNames[kind as 'page']

/** For whoever takes it back, such as “the change of gate “Stockists only””. `bodyOf`: what is said of it now, where the draft says nothing. */
export function changedWords(
  { changed }: Pick<SavedChanges, 'changed'>,
  bodyOf: (kind: VersionedKind, key: string) => unknown,
): string {
  const [first, ...others] = changed
  if (!first) return 'a change'
  const { kind, key, change } = first
  const name = changeName({ key: '', before: change?.before ?? null, after: change?.after ?? bodyOf(kind, key) })
  const what = name ? `${changeKind({ kind })} “${name}”` : changeKind({ kind })
  return others.length ? `the change of ${what} and ${others.length} more` : `the change of ${what}`
}
