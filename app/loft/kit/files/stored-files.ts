/** Files people fetch, on their way to the server: piece by piece, going on where it broke off. */
import { loftApi, Refusal } from '~/loft/core/loft-api'
import type { Upload } from '~/loft/core/route-answers'
import { askedAsRole } from '~/loft/core/seen-as-role'

/** Bytes sent at once: what breaks off is sent again from where it came to. */
const piece = 32 * 1_048_576
/** Milliseconds before it is tried again, longer each time. */
const waits = [500, 2000, 6000, 15_000]

export interface KeptFile {
  name: string
  fileName: string
}

/** One that can be given up. */
export interface Sending {
  /** 0 to 1. */
  told(part: number): void
  signal: AbortSignal
}

/** Uploads one and answers what it is kept as. Throws a sentence where it cannot be kept, or the line stays away. */
export async function keepFile(file: File, { told, signal }: Sending): Promise<KeptFile> {
  let at: Upload = await loftApi('POST uploads', { body: { name: file.name, size: file.size } })
  const giveUp = () => void loftApi('DELETE uploads/:id', { params: { id: at.id } }).catch(() => {})
  signal.addEventListener('abort', giveUp, { once: true })
  try {
    for (let tries = 0; at.file === undefined;) {
      try {
        at = await send(file, at, { told, signal })
        tries = 0
      } catch (error) {
        if (signal.aborted) throw new Error('It was given up.', { cause: error })
        const goesOn = error instanceof Broken || (error instanceof Refusal && error.code === 'changed-meanwhile')
        if (!goesOn || tries >= waits.length) throw error
        await new Promise(resolve => setTimeout(resolve, waits[tries++]))
        at = await loftApi('GET uploads/:id', { params: { id: at.id } }).catch(() => at)
      }
    }
  } finally {
    signal.removeEventListener('abort', giveUp)
  }
  return { name: at.file, fileName: at.fileName }
}

/** The line broke: what came is kept there. */
class Broken extends Error {}

/** `fetch` tells nothing of what it has sent, so this goes the older way. */
function send(file: File, { id, received, size }: Upload, { told, signal }: Sending): Promise<Upload> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest()
    request.open('PATCH', `/api/loft/uploads/${encodeURIComponent(id)}`)
    request.setRequestHeader('content-type', 'application/octet-stream')
    request.setRequestHeader('upload-offset', String(received))
    for (const [name, value] of Object.entries(askedAsRole())) request.setRequestHeader(name, value)
    request.responseType = 'json'
    request.upload.onprogress = ({ loaded }) => told(size ? (received + loaded) / size : 1)
    request.onload = () => {
      const { status, response } = request as { status: number; response: Record<string, unknown> | null }
      if (status === 200) return resolve(response as unknown as Upload)
      // 408: it came too slowly for a while.
      if (status >= 500 || status === 408 || !response)
        return reject(new Broken('The server cannot be reached: the file was not sent whole.'))
      const { type = '', detail = '', ...more } = response as { type?: string; detail?: string }
      reject(new Refusal(type.split(':').at(-1) ?? '', detail, more))
    }
    request.onerror = () => reject(new Broken('The line broke: the file was not sent whole.'))
    request.onabort = () => reject(new Error('It was given up.'))
    signal.addEventListener('abort', () => request.abort(), { once: true })
    request.send(file.slice(received, received + piece))
  })
}
