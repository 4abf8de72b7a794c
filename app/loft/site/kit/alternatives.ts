/** Several for one place, of which everybody gets the first that is for them. */
import type { InvertedCopies } from '~~/core/audit/inverted-copies'
import { appBlocks } from '~/blocks/blocks'
import { useLoft } from '~/loft/core/loft'
import type { DraftStep } from '~/loft/core/loft-api'
import { blockStep, usePageParts } from './page-parts'

export function useAlternatives() {
  const loft = useLoft()
  const parts = usePageParts()
  const { part, beside, freshOf } = parts

  /** What it is becomes the first of several, with its gate; a second, to be written, is for everybody else. */
  async function giveOthers(
    id: string,
    makeSecond: (group: string, key: string) => DraftStep[] = (group, key) => [
      blockStep.add({ id: key, kind: 'text', in: { block: group }, body: appBlocks.text.first }),
    ],
  ): Promise<{ group: string; second: string }> {
    const group = parts.freshAround([id])
    const second = freshOf(id)
    await loft.steps(
      () => [...parts.wrapping([id], group, { oneOf: true }), ...makeSecond(group, second)],
      'something else for the others',
    )
    return { group, second }
  }

  /** Parts copied and inverted by hand become alternatives of one place; the last keeps no gate. */
  async function join({ parts: ids, dropped }: InvertedCopies): Promise<string> {
    const inOrder = beside(part(ids[0]!)!)
      .map(one => one.id)
      .filter(one => ids.includes(one))
    const group = parts.freshAround(inOrder)
    await loft.steps(
      () => [
        ...parts.wrapping(inOrder, group, { oneOf: true }),
        blockStep.move(ids.at(-1)!, null),
        loft.entryStep('gate', dropped, null),
      ],
      'the joining of parts',
    )
    return group
  }
  return { giveOthers, join }
}
