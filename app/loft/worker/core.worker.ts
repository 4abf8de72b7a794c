/** The core beside the screen, so that it never waits for a board. */
import type { Asked, Told } from '~/loft/core/worker/ask-core'
import { answer } from './answer'

self.onmessage = async ({ data: { number, ...asked } }: MessageEvent<Asked>) => {
  const told = await Promise.resolve()
    .then(() => answer(asked))
    .then(
      (given): Told => ({ number, answer: given }),
      (error: Error): Told => ({ number, error: error.message }),
    )
  self.postMessage(told)
}
