/** Which staff rights the parts of a thing take: asked by the server for what is given, and by screens for what is offered. */
import { moduleOf } from '../kinds/kinds'
import type { VersionedThing } from '../kinds/kinds'
import { staffKinds } from './staff-kinds'
import type { StaffKind, StaffKindId } from './staff-kinds'

/** A right to a kind, or to some fields of it. */
export interface PartRight {
  kind: StaffKindId
  fields?: string[]
}

/**
 * The rights that parts of a thing of this kind take together. `staff`: the staff kind the thing itself is of, as a part
 * of a page is of its sort.
 */
export function rightsForParts(kind: VersionedThing, staff: StaffKindId, parts: readonly string[]): PartRight[] {
  const known = moduleOf(kind).parts ?? {}
  // Where it stands among its neighbours is a place, whatever it is.
  const rights = parts.filter(part => part !== 'id').map(part => (part === 'position' ? 'place' : known[part]))
  const named = [...new Set(rights.filter(right => typeof right === 'string'))]
  const others = [...new Set(rights.flatMap(right => (typeof right === 'object' ? [right.kind] : [])))]
  // A part without a line of its own takes the right to every field.
  const every = rights.some(right => right === undefined)
  const fields = every ? [...((staffKinds[staff] as StaffKind).fields ?? [])] : named
  return [
    ...(named.length || every ? [{ kind: staff, ...(fields.length ? { fields } : {}) }] : []),
    ...others.map(other => ({ kind: other as StaffKindId })),
  ]
}

/** Parts of a thing of this kind that have a line of their own. */
export const partsOf = (kind: VersionedThing): string[] => Object.keys(moduleOf(kind).parts ?? {})
