/** What the person at the console may do: what they may not is not offered. */
import { isEntryKind } from '~~/core/editions/contents'
import type { VersionedThing } from '~~/core/kinds/kinds'
import type { EntryKind } from '~~/core/rulebook/rulebook'
import { staffKindOfEntry } from '~~/core/staff/entry-kind'
import type { StaffAction, StaffKindId } from '~~/core/staff/staff-kinds'
import { mayStaff } from '~~/core/staff/staff-rule'
import type { OwnedThing, StaffAsk, StaffRights } from '~~/core/staff/staff-rule'
import { staffKindOfThing } from '~~/core/staff/thing-kind'
import type { KnownSite } from './known-site'
import type { DraftChange } from './loft-api'
import { useSeenAsRole, WithheldNotes } from './seen-as-role'
import type { Withheld } from './seen-as-role'

/** Whoever made a thing, where only the server knows who that is. */
const anybody = { isIn: () => true, holds: () => true }

export function makeRights({ data, visiting }: Pick<KnownSite, 'data' | 'visiting'>) {
  const me = computed(() => data.value?.me)
  const rights = computed<StaffRights>(() => ({
    personId: data.value?.me.id ?? '',
    masterKey: data.value?.me.masterKey ?? false,
    rules: data.value?.me.rules ?? [],
  }))
  /** Looked at as a staff role, what is not offered is noted, so that it can be said which sentence it lacks. */
  const seenAs = useSeenAsRole()
  const withheld = new WithheldNotes()
  let notes: ((one: Withheld) => void) | null = one => withheld.note(one)
  const isAllowed = (ask: StaffAsk): boolean => {
    const { allowed } = mayStaff(rights.value, ask)
    if (!allowed && seenAs.role.value !== null && data.value)
      notes?.({ kind: ask.kind, action: ask.action, ...(ask.fields?.length ? { fields: ask.fields } : {}) })
    return allowed
  }
  /** What `work` asks for and is withheld; none of it counts as the screen's. */
  function withheldIn(work: () => unknown): Withheld[] {
    const before = notes
    const found: Withheld[] = []
    notes = one => void found.push(one)
    try {
      work()
    } finally {
      notes = before
    }
    return found
  }
  /** Whether the person may do this, to some thing at least: what is not allowed is not offered. */
  const may = (kind: StaffKindId, action: StaffAction, fields?: string[]) =>
    (action === 'look' || visiting.value === null) && isAllowed({ kind, action, ...(fields ? { fields } : {}) })
  /**
   * The same for one thing. Who made it only the server knows: where that decides, it is offered, and the server
   * answers.
   */
  const mayThing = (kind: StaffKindId, action: StaffAction, thing: OwnedThing, fields?: string[]) =>
    (action === 'look' || visiting.value === null) &&
    isAllowed({ kind, action, thing, maker: anybody, ...(fields ? { fields } : {}) })
  /** The same for one entry of the rules. */
  const mayEntry = (kind: EntryKind, action: StaffAction) =>
    may(
      staffKindOfEntry[kind],
      staffKindOfEntry[kind].startsWith('settings-') && (action === 'add' || action === 'withdraw') ? 'change' : action,
    )
  /** Whether a change of the draft may be published, undone or otherwise acted on, to some of its kind at least. */
  const mayChange = ({ kind, before, after }: DraftChange, action: StaffAction) =>
    isEntryKind(kind)
      ? mayEntry(kind, action)
      : may(staffKindOfThing(kind as VersionedThing, (after ?? before) as Record<string, unknown>), action)

  return {
    me,
    rights,
    may,
    mayThing,
    mayEntry,
    mayChange,
    withheld: withheld.list,
    forgetWithheld: () => withheld.forget(),
    withheldIn,
  }
}
