/** The core beside the screen, so that it never waits for a board. */
import { answerAsk } from './core-answers'
import type { Ask } from './core-messages'

self.onmessage = ({ data }: MessageEvent<{ number: number; ask: Ask }>) => {
  try {
    const answer = answerAsk(data.ask)
    // Boards go over as they are: copying a million cells would be felt.
    self.postMessage({ number: data.number, answer }, { transfer: buffersIn(answer) })
  } catch (error) {
    self.postMessage({ number: data.number, error: (error as Error).message })
  }
}

const buffersIn = (answer: unknown): ArrayBuffer[] =>
  Object.values(answer ?? {}).flatMap(value => (ArrayBuffer.isView(value) ? [value.buffer as ArrayBuffer] : []))
