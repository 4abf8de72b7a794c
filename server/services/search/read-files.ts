/**
 * The words in files, so that they are found by them. A file is what somebody uploaded: it is read in a thread of its
 * own, for so long and with so much memory, and what cannot be read has no words.
 */
import { inTransaction } from '../../db/turn'
import { createReadStream } from 'node:fs'
import { createRequire } from 'node:module'
import { pathToFileURL } from 'node:url'
import { readFile } from 'node:fs/promises'
import { Worker } from 'node:worker_threads'
import { eq, isNull } from 'drizzle-orm'
import { readFileName, wordTypes } from '../../../core/files/stored-file'
import type { StoredFile } from '../../../core/files/stored-file'
import type { AnyDb } from '../../db/database'
import { file } from '../../db/schema'
import { log } from '../../log'
import { pathOf } from '../files/file-folder'
import { indexSearch } from './index-texts'

/** Bytes of a file that is read at all, and characters that are kept of it. */
const mostRead = 50_000_000
const mostWords = 1_000_000
/** Files between two times that what was read is kept. */
const mostAtOnce = 20
/** Milliseconds, and MB of the thread's heap. */
const mostTime = 30_000
const mostHeap = 384

/** Reads files that nobody has read, and finds by them what names them; answers how many. */
export async function readFiles(db: AnyDb): Promise<number> {
  const waiting = await db
    .select({ name: file.name })
    .from(file)
    .where(isNull(file.words))
    .orderBy(file.madeAt)
    .limit(mostAtOnce)
  const read: { name: string; words: string }[] = []
  for (const { name } of waiting) {
    const words = await wordsOf(readFileName(name)!).catch((error: unknown) => {
      log().warn({ err: error }, 'a file could not be read for its words')
      return ''
    })
    read.push({ name, words: kept(words) })
  }
  if (read.length)
    await inTransaction(db, async tx => {
      for (const { name, words } of read) await tx.update(file).set({ words }).where(eq(file.name, name))
      await indexSearch(
        tx,
        read.map(one => one.name),
      )
    })
  return read.length
}

/** What no database keeps is left out. */
const kept = (words: string) => words.replaceAll(/[\0\p{Surrogate}]/gu, ' ').slice(0, mostWords)

async function wordsOf(told: StoredFile): Promise<string> {
  if (told.size > mostRead) return ''
  if (told.type === 'pdf') return wordsOfPdf(pathOf(told))
  if (!wordTypes.has(told.type)) return ''
  let words = ''
  for await (const piece of createReadStream(pathOf(told), { encoding: 'utf8' }) as AsyncIterable<string>) {
    words += piece
    if (words.length >= mostWords) break
  }
  return words
}

const inThread = `
  const { parentPort, workerData } = require('node:worker_threads')
  import(workerData.reader)
    .then(({ extractText }) => extractText(new Uint8Array(workerData.bytes), { mergePages: true }))
    .then(({ text }) => parentPort.postMessage(text.slice(0, workerData.most)))
    .catch(error => parentPort.postMessage({ failed: String(error && error.message) }))
`

async function wordsOfPdf(path: string): Promise<string> {
  const bytes = await readFile(path)
  const reader = pathToFileURL(createRequire(import.meta.url).resolve('unpdf')).href
  return new Promise((resolve, reject) => {
    const thread = new Worker(inThread, {
      eval: true,
      workerData: { bytes, reader, most: mostWords },
      resourceLimits: { maxOldGenerationSizeMb: mostHeap },
      stdout: true,
      stderr: true,
    })
    const end = setTimeout(() => {
      reject(new Error('It takes too long.'))
      void thread.terminate()
    }, mostTime)
    thread.on('message', (said: string | { failed: string }) => {
      if (typeof said === 'string') resolve(said)
      else reject(new Error(said.failed))
      void thread.terminate()
    })
    thread.on('error', reject)
    thread.on('exit', () => {
      clearTimeout(end)
      reject(new Error('It was not read to its end.'))
    })
  })
}
