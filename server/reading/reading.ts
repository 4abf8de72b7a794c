/**
 * Texts and files of people, read in a thread of their own with a deadline. What is known to be slow is bounded before it
 * is read (core/texts/markup-bound.ts); this ends whatever nobody thought of.
 */
import { existsSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { Worker } from 'node:worker_threads'
import { LRUCache } from 'lru-cache'
import { isPlainText } from '../../core/texts/passages'
import type { TextReading } from '../../core/texts/passages'
import { logFault } from '../log'
import { Problem } from '../problem'
import type { HtmlGiven, HtmlRead } from './html/html-page'
import type { Answered, Asked } from './reading-worker'
import type { Tasks } from './tasks'

/** Milliseconds one text or file may take. */
export const deadlineMs = 5000
/** Threads at most, and what may wait for them. */
const most = 2
const mostWaiting = 2000

/** It was not read in time. */
export class TookTooLong extends Error {}

interface Job {
  asked: Asked
  done(answer: unknown): void
  fail(error: Error): void
}
interface Thread {
  worker: Worker
  job: Job | null
  timer?: ReturnType<typeof setTimeout>
}

const waiting: Job[] = []
const threads = new Set<Thread>()
let made = 0

/** Reads it; throws `TookTooLong` where that takes longer than the deadline. */
export function readBeside<T extends keyof Tasks>(
  task: T,
  input: Parameters<Tasks[T]>[0],
): Promise<ReturnType<Tasks[T]>> {
  if (waiting.length >= mostWaiting) return Promise.reject(new Problem('busy-reading'))
  return new Promise((done, fail) => {
    waiting.push({ asked: { id: ++made, task, input }, done: done as (answer: unknown) => void, fail })
    void takeUp()
  })
}

/** Characters: a short text without anything to look for is not worth the way. */
const short = 2000
/** What was read last, by its text: read ahead, it is at hand for whoever saves. Characters of passages kept. */
const known = new LRUCache<string, TextReading>({
  maxSize: 10_000_000,
  sizeCalculation: ({ passages }, text) => text.length + passages.length * 200 + 1,
})

/** A text, with its passages. */
export async function readTextBeside(markdown: string): Promise<TextReading | 'too long'> {
  if (markdown.length < short && isPlainText(markdown)) return { passages: [], problems: [] }
  const before = known.get(markdown)
  if (before) return before
  try {
    const reading = await readBeside('text', markdown)
    known.set(markdown, reading)
    return reading
  } catch (error) {
    if (error instanceof TookTooLong) return 'too long'
    throw error
  }
}

/** A page of another site; one that takes too long is not read. */
export const readHtmlBeside = (given: HtmlGiven): Promise<HtmlRead> =>
  readBeside('html', given).catch((error: unknown) => {
    if (error instanceof TookTooLong) return { unread: 'It took too long to read.' }
    throw error
  })

async function takeUp(): Promise<void> {
  const idle = [...threads].find(one => one.job === null) ?? (threads.size < most ? await newThread() : undefined)
  const job = idle && waiting.shift()
  if (!job) return
  idle.job = job
  idle.worker.ref()
  idle.timer = setTimeout(() => end(idle, new TookTooLong('It took too long to read.')), deadlineMs)
  idle.worker.postMessage(job.asked)
}

/** The thread is free for the next, or gone. */
function settle(thread: Thread): Job | null {
  clearTimeout(thread.timer)
  const { job } = thread
  thread.job = null
  return job
}

function end(thread: Thread, error: Error): void {
  threads.delete(thread)
  settle(thread)?.fail(error)
  void thread.worker.terminate()
  void takeUp()
}

async function newThread(): Promise<Thread> {
  const thread: Thread = {
    worker: undefined as never,
    job: { asked: undefined as never, done: () => {}, fail: () => {} },
  }
  threads.add(thread)
  thread.worker = await start()
  thread.job = null
  thread.worker.on('message', (answered: Answered) => {
    const job = settle(thread)
    thread.worker.unref()
    if ('answer' in answered) job?.done(answered.answer)
    else job?.fail(new Error(answered.failed))
    void takeUp()
  })
  thread.worker.on('error', error => {
    // What takes all its memory is as bad as what takes all its time, and whoever sent it is told the same.
    const isFull = (error as NodeJS.ErrnoException).code === 'ERR_WORKER_OUT_OF_MEMORY'
    if (!isFull) logFault('reading', error)
    end(thread, isFull ? new TookTooLong('It took too much memory to read.') : error)
  })
  thread.worker.unref()
  return thread
}

const bundle = 'reading-worker.cjs'
const resourceLimits = { maxOldGenerationSizeMb: 512 }
/** Beside the built server; elsewhere it is put together when it is first needed. */
async function start(): Promise<Worker> {
  const here = dirname(fileURLToPath(import.meta.url))
  for (let at = here, i = 0; i < 5; i++, at = dirname(at))
    if (existsSync(join(at, bundle))) return new Worker(join(at, bundle), { resourceLimits })
  const { buildWorker } = await import('./build-worker')
  return new Worker(await buildWorker(), { eval: true, resourceLimits })
}
