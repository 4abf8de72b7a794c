import { coreIsMadeBy } from '~/loft/core/worker/ask-core'
import type { Asked } from '~/loft/core/worker/ask-core'
import { answer as answerOfCore } from '~/loft/worker/answer'

/** The core, answering in the same thread: what the worker would say, a moment later. */
export class CoreHere {
  onmessage: ((event: { data: object }) => void) | null = null
  postMessage({ number, ...asked }: Asked): void {
    void Promise.resolve(answerOfCore(asked)).then(answer => this.onmessage?.({ data: { number, answer } }))
  }
}
coreIsMadeBy(() => new CoreHere() as unknown as Worker)
