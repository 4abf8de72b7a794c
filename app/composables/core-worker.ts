import type { Answered, Ask } from '~/workers/core-messages'

interface Waiting {
  resolve(answer: unknown): void
  reject(error: Error): void
}

let worker: Worker | undefined
let asked = 0
const waiting = new Map<number, Waiting>()

function started(): Worker {
  if (worker) return worker
  worker = new Worker(new URL('../workers/core.worker.ts', import.meta.url), { type: 'module' })
  worker.onmessage = ({ data }: MessageEvent<{ number: number; answer?: unknown; error?: string }>) => {
    const one = waiting.get(data.number)
    waiting.delete(data.number)
    if (data.error === undefined) one?.resolve(data.answer)
    else one?.reject(new Error(data.error))
  }
  return worker
}

/** Starts it before there is anything to ask, while what it is asked about is still on its way. */
export const wakeCore = (): void => void started()

/**
 * Asks the core in its worker. Questions are answered in the order they are asked. `start`: the text of what the server
 * said, where the question is about that: it goes over as it came.
 */
export function askCore<A extends Ask>(ask: A, start?: string): Promise<Answered<A>> {
  return new Promise((resolve, reject) => {
    const number = ++asked
    waiting.set(number, { resolve: resolve as (answer: unknown) => void, reject })
    // Reactive proxies cannot be cloned, and a text goes over at once: a large site is read where it is needed.
    started().postMessage({ number, kind: ask.kind, ask: JSON.stringify(ask), start })
  })
}
