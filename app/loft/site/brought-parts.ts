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

  /** After the part at hand, or last on the page. */
  async function addPart(kind: BlockKind) {
    await bring((place, after) => parts.add(kind, place, after))
  }
  const fromShelf = (id: string, shared: boolean) =>
    bring((place, after) => (shared ? sharing.shareHere(id, place, after) : parts.copyTo(id, place, after)), !shared)
  async function bring(make: (place: Standing, after?: string) => Promise<string>, writes = true) {
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
      at?.in ?? (holder && appKindOf(holder.kind).blocks ? ({ [holder.kind]: holder.id } as Standing) : undefined)
    if (!place) return
    const made = await run(() => make(place, at?.id))
    if (typeof made !== 'string') return
    await writing.show([{ kind: 'block', key: made }])
    await nextTick()
    pane.value?.choose(made, writes)
  }
  return { addPart, fromShelf }
}
