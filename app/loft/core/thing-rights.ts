/** What the reader may do to one thing at hand, part by part: asked by the table the server asks by. */
import type { VersionedThing } from '~~/core/kinds/kinds'
import { rightsForParts } from '~~/core/staff/part-rights'
import { staffKindOfThing } from '~~/core/staff/thing-kind'
import { useLoft } from './loft'
import { useWriting } from './writing'

/** For what is new: whether a part of it may be given. */
export function mayGive(kind: VersionedThing, part: string): boolean {
  const loft = useLoft()
  const own = staffKindOfThing(kind, {})
  return rightsForParts(kind, own, [part]).every(ask =>
    loft.may(ask.kind, ask.kind === own ? 'add' : 'change', ask.fields),
  )
}

export function useThingRights(name: () => { kind: VersionedThing; key: string }) {
  const loft = useLoft()
  const writing = useWriting()
  watch(name, now => void writing.show([now]), { immediate: true })
  const looked = computed(() => writing.looked(name()))
  const right = computed(() => staffKindOfThing(name().kind, looked.value?.thing ?? {}))
  const may = (action: 'change' | 'withdraw', fields?: string[]) =>
    loft.view !== 'live' && looked.value !== undefined && loft.mayThing(right.value, action, looked.value, fields)
  const mayPart = (part: string) =>
    rightsForParts(name().kind, right.value, [part]).every(ask =>
      ask.kind === right.value ? may('change', ask.fields) : loft.view !== 'live' && loft.may(ask.kind, 'change'),
    )
  return { looked, right, may, mayPart }
}

/** The right staff need for a kind of part. */
export const blockRight = (kind: string) => staffKindOfThing('block', { kind })
