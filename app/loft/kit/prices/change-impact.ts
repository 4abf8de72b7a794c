import type { Version } from '~~/core/editions/contents'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'

type Change = Pick<Version, 'kind' | 'key'> & { after: unknown; position: number }
/** Chosen changes of the draft; null for all of it. */
export type ChosenChanges = () => readonly Change[] | null

/**
 * What the draft does, or chosen changes of it, as the core works it out; null where none of them could do anything of
 * the sort, or whoever looks may not know it. `asks`: what else it is asked anew for.
 */
export function useChangeImpact<T>(
  chosen: ChosenChanges,
  {
    kinds,
    mayLook,
    ask,
    asks = () => null,
  }: {
    /** Of changes that can. */ kinds: ReadonlySet<string>
    mayLook: () => boolean
    ask: (changes: Version[] | null) => Promise<T>
    asks?: () => unknown
  },
) {
  const loft = useLoft()
  const impact = shallowRef<T | null>(null)
  watchLast(
    [() => loft.told, () => loft.board !== null, chosen, asks],
    async isLast => {
      const list = chosen()
      const moves = (list ?? loft.changes).some(({ kind }) => kinds.has(kind))
      if (!moves || !mayLook() || !loft.board) return void (impact.value = null)
      // What is seen is asked for first.
      await nextTick()
      const made = await ask(
        list?.map(({ kind, key, after, position }) => ({ kind, key, body: after, position })) ?? null,
      )
      if (isLast()) impact.value = made
    },
    { immediate: true },
  )
  return impact
}
