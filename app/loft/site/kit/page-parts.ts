/** Making, moving, copying and removing the parts of a page: each one change of the draft, taken back as one. */
import type { BlockKind } from '~~/core/blocks/blocks'
import type { Standing } from '~~/core/kinds/block'
import { appBlocks } from '~/blocks/blocks'
import { useLoft } from '~/loft/core/loft'
import type { DraftStep } from '~/loft/core/loft-api'
import { useWriting } from '~/loft/core/writing'
import { usePartPlaces } from './part-places'
import { partName } from './part-words'
import type { Beside } from './site-desk'

/** Steps with blocks. */
export const blockStep = {
  add: (thing: Record<string, unknown>, before: string | null = null): DraftStep => ({
    do: 'add',
    kind: 'block',
    thing,
    before,
  }),
  change: (key: string, parts: Record<string, unknown>): DraftStep => ({ do: 'change', kind: 'block', key, parts }),
  /** Elsewhere, before another that stands there, or last. */
  put: (key: string, place: Standing, before: string | null): DraftStep => ({
    do: 'change',
    kind: 'block',
    key,
    parts: { in: place },
    before,
  }),
  move: (key: string, before: string | null): DraftStep => ({ do: 'move', kind: 'block', key, before }),
  remove: (key: string): DraftStep => ({ do: 'remove', kind: 'block', key, gates: true }),
  copy: (key: string, id: string, before: string | null, place?: Standing): DraftStep => ({
    do: 'copy',
    kind: 'block',
    key,
    as: { id, ...(place ? { in: place } : {}) },
    before,
  }),
}

export function usePageParts() {
  const loft = useLoft()
  const writing = useWriting()
  const places = usePartPlaces()
  const { part, beside, nextOf, holderOf, groupBefore, freshOf, freshIn } = places

  /** A new part after another, or last where there is none. Answers its id. */
  async function add(kind: BlockKind, place: Standing, after?: string): Promise<string> {
    const id = freshIn(place)
    const thing = { id, kind, in: place, body: appBlocks[kind].first ?? {} }
    await loft.steps(
      () => [blockStep.add(thing, after === undefined ? null : nextOf(part(after)!))],
      `a new ${appBlocks[kind].name}`,
    )
    return id
  }

  /** Among those beside it. */
  async function move(id: string, way: -1 | 1): Promise<void> {
    const all = beside(part(id)!)
    const at = all.findIndex(one => one.id === id)
    const target = at + way
    if (target < 0 || target >= all.length) return
    const before = (way < 0 ? all[target] : all[target + 1])?.id ?? null
    await loft.steps(() => [blockStep.move(id, before)], 'a move')
  }
  const moveTo = (id: string, place: Standing, before: string | null) =>
    loft.steps(() => [blockStep.put(id, place, before)], 'a move')
  /** To right before or behind another, or into a group that has none yet. */
  async function bring(id: string, { part: other, side }: Beside): Promise<void> {
    const [one, two] = [part(id)!, part(other)!]
    if (side === 'in') return void (await moveTo(id, { block: other }, null))
    const before = side === 'before' ? other : nextOf(two)
    if (before === id || (side === 'before' && nextOf(one) === other)) return
    if (places.isBeside(one, two)) await loft.steps(() => [blockStep.move(id, before)], 'a move')
    else await moveTo(id, two.in, before)
  }
  /** Out of the group it stands in, to behind it. */
  async function moveOut(id: string): Promise<void> {
    const around = holderOf(part(id)!)
    if (around) await moveTo(id, around.in, nextOf(around))
  }
  async function moveIn(id: string): Promise<void> {
    const group = groupBefore(id)
    if (group) await moveTo(id, { block: group.id }, null)
  }

  /** With all that stands in it and the gates on it. */
  async function remove(id: string): Promise<void> {
    const name = { kind: 'block' as const, key: id }
    await writing.read([name])
    await loft.steps(() => [blockStep.remove(id)], `the removal of ${partName({ ...writing.kept(name)?.thing })}`)
  }

  /** With everything inside and its gates; it comes right after. Answers its id. */
  async function copy(id: string): Promise<string> {
    const key = freshOf(id)
    await loft.steps(() => [blockStep.copy(id, key, nextOf(part(id)!))], 'a copy')
    return key
  }
  /** A copy elsewhere, with everything inside and its gates. Answers its id. */
  async function copyTo(id: string, place: Standing, after?: string): Promise<string> {
    const key = freshOf(id)
    const before = () => (after === undefined ? null : nextOf(part(after)!))
    await loft.steps(() => [blockStep.copy(id, key, before(), place)], 'a copy')
    return key
  }

  /** The steps that put a group around some that stand beside each other. */
  function wrapping(ids: readonly string[], group: string, more: Record<string, unknown> = {}): DraftStep[] {
    const first = part(ids[0]!)!
    return [
      blockStep.add({ id: group, kind: 'group', in: first.in, body: {}, ...more }, first.id),
      ...ids.map(id => blockStep.put(id, { block: group }, null)),
    ]
  }
  const freshAround = (ids: readonly string[]) => freshIn(part(ids[0]!)!.in)
  /** A group around some, with a gate of its own once it is given one. Answers its id. */
  async function wrap(ids: readonly string[]): Promise<string> {
    const group = freshAround(ids)
    await loft.steps(() => wrapping(ids, group), 'a group around it')
    return group
  }
  /** What stands in a group stands where it stood. Only where no gate is lost by it. */
  async function unwrap(id: string): Promise<void> {
    await loft.steps(() => {
      const group = part(id)!
      const inner = loft.index.standingIn('block', id)
      return [...inner.map(one => blockStep.put(one.id, group.in, id)), blockStep.remove(id)]
    }, 'the end of a group')
  }

  return { ...places, add, move, bring, moveOut, moveIn, remove, copy, copyTo, wrap, unwrap, wrapping, freshAround }
}
