/** Entries of the rules in the draft: put, moved among others, taken out; and one change of the draft made undone. */
import { isEntryKind } from '../../../core/editions/contents'
import type { VersionedKind } from '../../../core/editions/contents'
import { entryKinds, singleKey } from '../../../core/rulebook/rulebook'
import type { EntryKind, RuleEntry } from '../../../core/rulebook/rulebook'
import { issuesOf } from '../../../core/check/validate'
import type { AnyDb } from '../../db/database'
import { Problem } from '../../problem'
import type { Actor } from '../../trace'
import { refuseHeld } from './checks'
import { changeDraft, checkExpected, positionBefore } from './draft'
import type { Changed, Expects, Turn, Work } from './draft'
import { contentOf } from '../versions/versions'

/** Asked with the draft as it is, once nobody else can change it: throws where the person may not put this entry there. */
export type Permit = (turn: Turn, entry: RuleEntry) => void | Promise<void>
/** Nobody is asked: for what the program itself does. */
export const asSystem = (): void => {}

interface EntryPlace {
  kind: EntryKind
  key: string
}
export interface SaveEntry extends EntryPlace {
  body: unknown
  expects: Expects
  actor: Actor
  permit: Permit
}
type Doing<T> = Omit<T, 'actor'>

/** Puts one entry of the rules into the draft. Refuses what would leave the draft broken; the draft then stays as it was. */
export const saveEntry = (db: AnyDb, { actor, ...ask }: SaveEntry): Promise<Changed> =>
  changeDraft(db, actor, turn => putEntry(turn, ask))

export async function putEntry(turn: Turn, { kind, key, body, expects, permit }: Doing<SaveEntry>): Promise<Work> {
  await permit(turn, { kind, key, body })
  checkBody(kind, key, body)
  checkExpected(turn, { kind, key }, expects)
  return {
    puts: [{ kind, key, body: body as object }],
    action: 'rules.change',
    subject: `${kind} ${key}`,
    detail: { body },
  }
}

/** Takes one entry out in the draft; refuses, naming what uses it, when something does. */
export const removeEntry = (db: AnyDb, { actor, ...ask }: Omit<SaveEntry, 'body'>): Promise<Changed> =>
  changeDraft(db, actor, turn => takeOutEntry(turn, ask))

export async function takeOutEntry(
  turn: Turn,
  { kind, key, expects, permit }: Doing<Omit<SaveEntry, 'body'>>,
): Promise<Work> {
  await permit(turn, { kind, key, body: null })
  if (!turn.draft.get(kind, key)) throw new Problem('no-such-entry', { kind, key })
  checkExpected(turn, { kind, key }, expects)
  await refuseHeld(turn.tx, kind, key)
  return { puts: [{ kind, key, body: null }], action: 'rules.remove', subject: `${kind} ${key}`, removes: true }
}

interface MoveEntry extends EntryPlace {
  before: string | null
  permit: Permit
}
/** Puts an entry of an ordered list before another, or last; in the draft. */
export const moveEntry = (db: AnyDb, { actor, ...ask }: MoveEntry & { actor: Actor }): Promise<Changed> =>
  changeDraft(db, actor, turn => orderEntry(turn, ask))

export async function orderEntry(turn: Turn, { kind, key, before, permit }: MoveEntry): Promise<Work> {
  const { draft } = turn
  const moved = draft.get(kind, key)
  if (moved) await permit(turn, { kind, key, body: moved.body })
  const position = positionBefore(
    draft.of(kind).filter(one => one.key !== key),
    before,
  )
  if (!moved || position === null) throw new Problem('no-such-place', { kind })
  return {
    puts: [{ kind, key, body: moved.body as object, position }],
    action: 'rules.move',
    subject: `${kind} ${key}`,
    detail: { before },
  }
}

interface UndoChange {
  kind: VersionedKind
  key: string
  permit(turn: Turn): void | Promise<void>
}
/** Undoes one change of the draft: it is again as it is live. */
export const undoChange = (db: AnyDb, { actor, ...ask }: UndoChange & { actor: Actor }): Promise<Changed> =>
  changeDraft(db, actor, turn => undoWork(turn, ask))

async function undoWork(turn: Turn, { kind, key, permit }: UndoChange): Promise<Work> {
  await permit(turn)
  if (!turn.changed.has(`${kind} ${key}`)) throw new Problem('no-such-change')
  const before = turn.live.get(kind, key)
  const content = before && (await contentOf(turn.tx, [before.id])).get(before.id)
  return {
    puts: [
      before
        ? { kind, key, body: before.body as object, content: content ?? {}, position: before.position }
        : { kind, key, body: null },
    ],
    action: isEntryKind(kind) ? 'rules.undo' : `${kind}.undo`,
    subject: `${kind} ${key}`,
    removes: true,
  }
}

function checkBody(kind: EntryKind, key: string, body: unknown): void {
  const parsed = entryKinds[kind].schema.safeParse(body, { reportInput: true })
  if (!parsed.success) throw new Problem('bad-input', undefined, { issues: issuesOf(parsed.error.issues) })
  const id = 'single' in entryKinds[kind] ? singleKey : (body as { id?: string }).id
  if (id !== key) throw new Problem('other-id')
}
