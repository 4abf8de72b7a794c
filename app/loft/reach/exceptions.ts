/**
 * Exceptions from what stands further out: a thing that opens to everyone, whatever the whole site, its kind or what it
 * lies in says. One gate each, and one for each entry of a menu that leads there, so that it can be found.
 */
import { scopes } from '~~/core/kinds/kinds'
import type { Resource } from '~~/core/kinds/kinds'
import { targetThing } from '~~/core/kinds/target'
import type { Gate } from '~~/core/rulebook/gate'
import type { SiteIndex } from '~~/core/site/site-index'
import { useLoft } from '~/loft/core/loft'
import { freshId } from '~/loft/kit/things/fresh-id'

const standsOn = (gate: Gate, { kind, id }: Resource) => (gate.on as Record<string, unknown>)[kind] === id

/** Says nothing but that it opens to everyone in place of what stands further out. */
export const isException = (gate: Gate) =>
  gate.inherit === false &&
  gate.active !== false &&
  gate.open !== undefined &&
  'everyone' in gate.open &&
  !gate.find &&
  !gate.search &&
  !gate.price &&
  !gate.take

const exceptionOf = (thing: Resource, gates: readonly Gate[]): Gate | undefined =>
  gates.find(gate => standsOn(gate, thing) && isException(gate))

/** Entries of menus that lead to a thing. */
export const entriesLeadingTo = ({ kind, id }: Resource, index: SiteIndex): Resource[] =>
  [...index.all('menuItem').values()].flatMap(({ id: item, to }) => {
    const target = targetThing(to)
    return target?.kind === kind && target.id === id ? [{ kind: 'menuItem' as const, id: item }] : []
  })

export function useExceptions() {
  const loft = useLoft()
  const gates = () => loft.draft.gates ?? []
  const may = computed(
    () =>
      loft.view !== 'live' &&
      loft.visiting === null &&
      loft.may('gates', 'change') &&
      loft.may('gates', 'add') &&
      loft.may('gates', 'withdraw'),
  )
  function make(thing: Resource, title: string) {
    for (const one of [thing, ...entriesLeadingTo(thing, loft.index)]) {
      if (!(one.kind in scopes) || exceptionOf(one, gates())) continue
      const id = freshId(
        `open ${one.id}`,
        gates().map(gate => gate.id),
      )
      loft.change('gate', id, {
        id,
        name: `Open: ${title}`,
        on: { [one.kind]: one.id },
        inherit: false,
        open: { everyone: true },
      })
    }
  }
  function end(thing: Resource) {
    for (const one of [thing, ...entriesLeadingTo(thing, loft.index)]) {
      const gate = exceptionOf(one, gates())
      if (gate) loft.change('gate', gate.id, null)
    }
  }
  /** Whether all below it is open with it. */
  function setBelow(thing: Resource, below: boolean) {
    const gate = exceptionOf(thing, gates())
    if (gate) loft.change('gate', gate.id, { ...gate, on: { [thing.kind]: thing.id, ...(below ? { below } : {}) } })
  }
  return { may, make, end, setBelow, of: (thing: Resource) => exceptionOf(thing, gates()) }
}
