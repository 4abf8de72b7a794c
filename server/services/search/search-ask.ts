/** What is searched for, by whom. */
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import type { Snapshot } from '../live/snapshot'

export interface SearchAsk {
  snapshot: Pick<Snapshot, 'rules' | 'contents'>
  decider: CompiledDecider
  text: string
  /** Things answered; default 20. */
  most?: number
}
