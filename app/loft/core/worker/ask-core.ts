/** Asking the core, which works in a worker beside the screen. Each room has questions of its own; here is how they go over. */
import { shallowRef } from 'vue'

interface Waiting {
  resolve(answer: unknown): void
  reject(error: Error): void
}
/** What goes over: which room asks what, with what goes along as the text of its JSON. */
export interface Asked {
  number: number
  room: string
  question: string
  ask: string
  start?: string
}
export type Told = { number: number } & ({ answer: unknown } | { error: string })

/** What a room asks: by question, what goes along and what comes back. */
type Questions<Q> = { [K in keyof Q]: (ask: never) => unknown }
type AskOf<F> = F extends (...given: infer P) => unknown ? P : never
type AnswerOf<F> = F extends (...given: never) => infer R ? Awaited<R> : never

let make: (() => Worker) | undefined
let worker: Worker | undefined
let asked = 0
const waiting = new Map<number, Waiting>()

/** Why the core does not work, where it does not: it could not be started, or it broke. */
export const coreFailure = shallowRef('')

/** Who makes the worker: whoever knows all rooms does, since it holds their answers. */
export function coreIsMadeBy(maker: () => Worker): void {
  make = maker
}

/** Nobody is left waiting for a worker that does not answer; the next question starts another. */
function broken(): void {
  coreFailure.value =
    'The part of the console that works out who reaches what did not start, or stopped. Load the page again; what you changed is kept.'
  worker?.terminate()
  worker = undefined
  for (const { reject } of waiting.values()) reject(new Error(coreFailure.value))
  waiting.clear()
}

function started(): Worker {
  if (worker) return worker
  if (!make) throw new Error('Nobody has said how the core is made.')
  worker = make()
  worker.onmessage = ({ data }: MessageEvent<Told>) => {
    const one = waiting.get(data.number)
    waiting.delete(data.number)
    if ('error' in data) return one?.reject(new Error(data.error))
    coreFailure.value = ''
    one?.resolve(data.answer)
  }
  worker.onerror = broken
  worker.onmessageerror = broken
  return worker
}

/** Starts it before there is anything to ask, while what it is asked about is still on its way. */
export const wakeCore = (): void => void started()

/**
 * What asks the questions of one room. They are answered in the order they are asked. `start`: the text of what the
 * server said, where the question is about that: it goes over as it came.
 */
export function askerOf<Q extends Questions<Q>>(room: string) {
  return <K extends keyof Q & string>(question: K, ...[ask, start]: [...AskOf<Q[K]>, start?: string]) =>
    new Promise<AnswerOf<Q[K]>>((resolve, reject) => {
      const number = ++asked
      waiting.set(number, { resolve: resolve as (answer: unknown) => void, reject })
      // Reactive proxies cannot be cloned, and a text goes over at once: a large site is read where it is needed.
      const sent: Asked = { number, room, question, ask: JSON.stringify(ask ?? null), ...(start ? { start } : {}) }
      started().postMessage(sent)
    })
}
