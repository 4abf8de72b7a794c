/** The core beside the screen, so that it never waits for a board. */
import { answerAsk } from './core-answers'
import type { Ask } from './core-messages'

self.onmessage = async ({ data }: MessageEvent<{ number: number; ask: Ask }>) => {
  try {
    self.postMessage({ number: data.number, answer: await answerAsk(data.ask) })
  } catch (error) {
    self.postMessage({ number: data.number, error: (error as Error).message })
  }
}
