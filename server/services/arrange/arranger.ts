/**
 * Whoever arranges parts from a brief, behind one shape. Bundled is one that needs nobody; another takes its place by
 * `useArranger`. What it answers counts only as far as it is an arrangement.
 */
import { arrangements, toldToArranger } from '../../../core/arrange/arrangement'
import type { ArrangeAsk, Arrangement } from '../../../core/arrange/arrangement'
import { arrangeAlone } from '../../../core/arrange/stand-in'
import { logFault } from '../../log'
import { Problem } from '../../problem'

export interface Arranger {
  /** Three arrangements. Of a teaser it is told no more than may be quoted. */
  arrange(ask: ArrangeAsk): Promise<unknown>
}
const standIn: Arranger = { arrange: async ask => arrangeAlone(ask) }
let arranger = standIn
/** Another than the bundled one; none for that. */
export function useArranger(given?: Arranger): void {
  arranger = given ?? standIn
}

/** Throws `unavailable` where there is no answer, or none that can be used. */
export async function arranged(ask: ArrangeAsk): Promise<Arrangement[]> {
  try {
    return arrangements.parse(await arranger.arrange(toldToArranger(ask)))
  } catch (error) {
    logFault('arranging', error)
    throw new Problem('unavailable')
  }
}
