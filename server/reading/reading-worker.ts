/** The thread that reads what people write: whatever takes it long, the server goes on answering. */
import { parentPort } from 'node:worker_threads'
import { tasks } from './tasks'

export interface Asked {
  id: number
  task: keyof typeof tasks
  input: unknown
}
export type Answered = { id: number; answer: unknown } | { id: number; failed: string }

parentPort!.on('message', ({ id, task, input }: Asked) => {
  try {
    parentPort!.postMessage({ id, answer: tasks[task](input as never) } satisfies Answered)
  } catch (error) {
    parentPort!.postMessage({ id, failed: String((error as Error).stack ?? error) } satisfies Answered)
  }
})
