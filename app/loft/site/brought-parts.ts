/** Bringing a part to the page that is looked at: a new one, one of the shelf, after the part at hand or last. */
import type { Ref } from 'vue'
import type { BlockKind } from '~~/core/blocks/blocks'
import type { Standing } from '~~/core/kinds/block'
import type { Resource } from '~~/core/kinds/kinds'
import { appKindOf } from '~/kinds/kinds'
import { useWriting } from '~/loft/core/writing'
import { usePageParts } from '~/loft/site/kit/page-parts'
import { useSharedParts } from '~/loft/site/kit/shared-parts'
import type { PaneKeys } from './site-keys'

export function useBroughtParts({
  thing,
  chosen,
  pane,
  run,
}: {
  thing: Readonly<Ref<Resource | null>>
  chosen: Ref<string | null>
  pane: Readonly<Ref<PaneKeys | null>>
  run<T>(work: () => Promise<T>): Promise<T | undefined>
}) {
  const writing = useWriting()
  const parts = usePageParts()
  const sharing = useSharedParts()

  /** After the part at hand or in it, or last on the page. */
  async function addPart(kind: BlockKind, within?: string) {
    await bring((place, after) => parts.add(kind, place, after), { within })
  }
  const fromShelf = (id: string, shared: boolean, within?: string) =>
    bring((place, after) => (shared ? sharing.shareHere(id, place, after) : parts.copyTo(id, place, after)), {
      within,
      writes: !shared,
    })
  /** `within`: last in that part. */
  async function bring(
    make: (place: Standing, after?: string) => Promise<string>,
    { within, writes = true }: { within?: string | undefined; writes?: boolean },
  ) {
    const holder = thing.value
    const chosenPart = chosen.value ? parts.part(chosen.value) : undefined
    // After what is shared comes after where it stands here, not after it on the shelf.
    const at =
      chosenPart && 'frame' in chosenPart.in && chosenPart.in.frame === 'shelf'
        ? parts
            .usesOf(chosenPart.id)
            .find(one => holder && (one.in as Record<string, string>)[holder.kind] === holder.id)
        : chosenPart
    const place: Standing | undefined =
      (within === undefined ? at?.in : { block: within }) ??
      (holder && appKindOf(holder.kind).blocks ? ({ [holder.kind]: holder.id } as Standing) : undefined)
    if (!place) return
    const made = await run(() => make(place, within === undefined ? at?.id : undefined))
    if (typeof made !== 'string') return
    await writing.show([{ kind: 'block', key: made }])
    await nextTick()
    pane.value?.choose(made, writes)
  }
  return { addPart, fromShelf }
}
