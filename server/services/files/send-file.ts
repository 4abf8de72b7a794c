/** A file on its way to whoever may have it: whole, in ranges, or not at all where they have it already (RFC 9110, 13 and 14). */
import { open } from 'node:fs/promises'
import type { ServerResponse } from 'node:http'
import { setResponseHeader, setResponseHeaders } from 'h3'
import type { H3Event } from 'h3'
import { create as contentDisposition } from 'content-disposition'
import send from 'send'
import { fileTypes, nameOfFile } from '../../../core/files/stored-file'
import type { StoredFile } from '../../../core/files/stored-file'
import { environment } from '../../environment'
import { Problem } from '../../problem'
import { log } from '../../log'
import { bytesAt, pathOf, placeOf } from './file-folder'

/** Bytes read at once: fewer calls for the same file, and still little for each who fetches. */
const chunk = 524_288

/**
 * The bytes of a file from `start` to `end`, both sent, by two pieces of memory in turn: one is filled while the other is
 * on its way. Streams take a new piece for each, which a large file turns into hundreds of megabytes before they are
 * collected. Ends early where nobody listens any more.
 */
async function sendBytes(res: ServerResponse, path: string, { start, end }: { start: number; end: number }) {
  const handle = await open(path)
  const gone = new Promise<void>(resolve => void res.once('close', resolve))
  try {
    const pieces = [Buffer.allocUnsafeSlow(chunk), Buffer.allocUnsafeSlow(chunk)]
    const onTheirWay: Promise<void>[] = []
    let at = start
    for (let turn = 0; at <= end && !res.destroyed; turn = 1 - turn) {
      await onTheirWay[turn]
      const { bytesRead } = await handle.read(pieces[turn]!, 0, Math.min(chunk, end - at + 1), at)
      // It was cut short meanwhile: whoever fetches is told by the length that is missing.
      if (!bytesRead) return void res.destroy()
      at += bytesRead
      const piece = pieces[turn]!.subarray(0, bytesRead)
      const written = new Promise<void>(resolve => void res.write(piece, () => resolve()))
      onTheirWay[turn] = Promise.race([written, gone])
    }
    await Promise.all(onTheirWay)
    if (!res.destroyed) res.end()
  } finally {
    await handle.close()
  }
}

/**
 * Whether what is asked for is the beginning: what goes on from further behind was counted then, and of what is only
 * looked at nothing is fetched.
 */
export function isBeginning(event: H3Event): boolean {
  const range = event.node.req.headers.range
  return !event.context.headOnly && (range === undefined || /^bytes=0-/.test(range))
}

/** Sends it, or tells the proxy which to send. Throws `range-past-end`, or `not-found` where its bytes are gone. */
export async function sendFile(event: H3Event, file: StoredFile, fileName: string): Promise<void> {
  const { req, res } = event.node
  // What is cut or missing is not sent as if it were whole.
  if ((await bytesAt(pathOf(file))) !== file.size) {
    log().error({ file: nameOfFile(file) }, 'a file is not what it was')
    throw new Problem('file-damaged')
  }
  setResponseHeaders(event, {
    'content-type': fileTypes[file.type],
    'content-disposition': contentDisposition(fileName),
    'x-content-type-options': 'nosniff',
    'content-security-policy': "default-src 'none'; sandbox",
    'cross-origin-resource-policy': 'same-origin',
  })
  const { BRAVIK_HAND_OFF: handOff } = environment()
  if (handOff) {
    setResponseHeader(event, 'x-accel-redirect', handOff + placeOf(file))
    event.node.res.end()
    return
  }
  setResponseHeader(event, 'etag', `"${file.sha256.slice(0, 32)}"`)
  // Nothing is read for a head.
  if (event.context.headOnly) req.method = 'HEAD'
  const options = { acceptRanges: true, cacheControl: false, etag: false, lastModified: false }
  await new Promise<void>((resolve, reject) => {
    const stream = send(req, pathOf(file), options)
    // It says what is sent, and of what: the bytes go their own way.
    stream.stream = (path: string, of: { start: number; end: number }) =>
      void sendBytes(res, path, { start: of.start, end: Math.min(of.end, file.size - 1) }).catch(error =>
        reject(problemOf(error as Error, event, file)),
      )
    stream.on('error', (error: Error & { status?: number }) => reject(problemOf(error, event, file)))
    res.once('close', resolve)
    stream.pipe(res)
  })
}

function problemOf(error: Error & { status?: number }, event: H3Event, { size }: StoredFile): Error {
  for (const header of ['content-disposition', 'content-type', 'etag']) event.node.res.removeHeader(header)
  if (error.status === 416) {
    setResponseHeader(event, 'content-range', `bytes */${size}`)
    return new Problem('range-past-end')
  }
  return error.status === 404 ? new Problem('not-found') : error
}
