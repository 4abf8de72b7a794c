/** Where the parts of a page stand, what stands in them, and which gates stand on them. */
import { standsAt } from '~~/core/kinds/block'
import type { Block, Standing } from '~~/core/kinds/block'
import { appBlockOf } from '~/blocks/blocks'
import { useLoft } from '~/loft/core/loft'

const placeOf = (block: Block): [kind: string, id: string] => standsAt(block.in)
/** Where what is shared stands. */
export const shelf: Standing = { frame: 'shelf' }

export function usePartPlaces() {
  const loft = useLoft()

  const part = (id: string) => loft.index.get('block', id)
  /** Those that stand where it stands, in their order. */
  const beside = (block: Block) => loft.index.standingIn(...placeOf(block))
  const nextOf = (block: Block) => {
    const all = beside(block)
    return all[all.findIndex(one => one.id === block.id) + 1]?.id ?? null
  }
  /** The one right before it, where there is one. */
  const before = (id: string): string | undefined => {
    const all = beside(part(id)!)
    return all[all.findIndex(one => one.id === id) - 1]?.id
  }
  const holderOf = (block: Block) => ('block' in block.in ? part(block.in.block) : undefined)
  /** The group right before it, which it can be moved into. */
  function groupBefore(id: string): Block | undefined {
    const previous = part(id) && before(id)
    const group = previous === undefined ? undefined : part(previous)
    return group && appBlockOf(group.kind ?? '').holds ? group : undefined
  }
  /** Everything that stands in one, and itself: those around before those within. */
  function withInside(id: string): Block[] {
    const block = part(id)
    return block ? [block, ...loft.index.standingIn('block', id).flatMap(one => withInside(one.id))] : []
  }
  /** What it stands in at last: a page, a part of the frame. */
  function rootOf(block: Block): string {
    const holder = holderOf(block)
    return holder ? rootOf(holder) : placeOf(block).join(' ')
  }
  const isBeside = (one: Block, other: Block) => placeOf(one).join(' ') === placeOf(other).join(' ')
  /**
   * Whether one can be brought to right before or behind another: not into itself, nor among alternatives, of which the
   * first that opens is shown. Beside what stands in the frame it stands already, or it would show on every page.
   */
  function fitsBeside(id: string, other: string): boolean {
    const [one, two] = [part(id), part(other)]
    if (!one || !two || withInside(id).some(inside => inside.id === other)) return false
    if (isBeside(one, two)) return !holderOf(two)?.oneOf
    return !('frame' in two.in) && !holderOf(two)?.oneOf && rootOf(one) === rootOf(two)
  }
  /** Whether it holds others, and has none yet. */
  const isEmptyGroup = (id: string) => {
    const block = part(id)
    return !!block && !!appBlockOf(block.kind ?? '').holds && !loft.index.standingIn('block', id).length
  }
  /** Gates that stand on these. */
  const gatesOn = (ids: ReadonlySet<string>) =>
    (loft.draft.gates ?? []).filter(gate => 'block' in gate.on && ids.has(gate.on.block))
  const onShelf = () => loft.index.standingIn('frame', 'shelf')
  /** Where a part of the shelf stands. */
  const usesOf = (id: string) => [...loft.index.all('block').values()].filter(one => one.shares === id)

  const freshKey = (holder: string) => {
    const base = holder.slice(0, 70)
    for (;;) {
      const key = `${base}-${Math.random().toString(36).slice(2, 7)}`
      if (!part(key)) return key
    }
  }
  /** For one that is made of another. */
  const freshOf = (id: string) => freshKey(id.replace(/-[a-z0-9]{5}$/, ''))
  /** For one that stands in a place. */
  const freshIn = (place: Standing) => freshKey(Object.values(place)[0] as string)

  return {
    part,
    beside,
    nextOf,
    before,
    holderOf,
    groupBefore,
    withInside,
    isBeside,
    fitsBeside,
    isEmptyGroup,
    gatesOn,
    onShelf,
    usesOf,
    freshOf,
    freshIn,
  }
}
