/** Parts that stand in several places: shared from the shelf, used elsewhere, and made one's own again. */
import type { Standing } from '~~/core/kinds/block'
import { useLoft } from '~/loft/core/loft'
import type { DraftStep } from '~/loft/core/loft-api'
import { blockStep } from './page-parts'
import { shelf, usePartPlaces } from './part-places'

export function useSharedParts() {
  const loft = useLoft()
  const { part, nextOf, freshOf } = usePartPlaces()
  const shows = (id: string, shares: string, place: Standing, before: string | null): DraftStep =>
    blockStep.add({ id, kind: 'shared', shares, in: place, body: {} }, before)

  /** What it was stands on the shelf from now on, and a part that shows it where it stood. Answers the latter. */
  async function share(id: string): Promise<string> {
    const key = freshOf(id)
    await loft.steps(() => {
      const { in: place } = part(id)!
      const next = nextOf(part(id)!)
      return [blockStep.put(id, shelf, null), shows(key, id, place, next)]
    }, 'the sharing of a part')
    return key
  }
  /** In place of what is shared, a copy that is its own, with the same gates. Answers its id. */
  async function makeOwn(id: string): Promise<string> {
    const key = freshOf(id)
    await loft.steps(() => {
      const block = part(id)!
      return [blockStep.copy(block.shares!, key, id, block.in), blockStep.remove(id)]
    }, 'a copy of its own')
    return key
  }
  /** The same part of the shelf here too. Answers the id of what shows it. */
  async function shareHere(id: string, place: Standing, after?: string): Promise<string> {
    const key = freshOf(id)
    const before = () => (after === undefined ? null : nextOf(part(after)!))
    await loft.steps(() => [shows(key, id, place, before())], 'a shared part')
    return key
  }
  return { share, makeOwn, shareHere }
}
