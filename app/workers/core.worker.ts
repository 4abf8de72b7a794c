/** The core beside the screen, so that it never waits for a board. */
import { answerAsk } from './core-answers'
import type { Ask } from './core-messages'

self.onmessage = async ({ data }: MessageEvent<{ number: number; ask: string; start?: string }>) => {
  try {
    self.postMessage({ number: data.number, answer: await answerAsk(JSON.parse(data.ask) as Ask, data.start) })
  } catch (error) {
    self.postMessage({ number: data.number, error: (error as Error).message })
  }
}
