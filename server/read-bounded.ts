/** The body of an answer from outside, as far as it may be read. */
interface Body {
  getReader(): {
    read(): Promise<{ done: boolean; value?: unknown }>
    cancel(): Promise<void>
  }
}

/**
 * Null where it is more than `most` bytes, of which no more is read. Throws once `signal` says so: `fetch` holds on to it
 * weakly while a body is read (undici), and may have forgotten it by then.
 */
export async function readBounded(body: Body | null, most: number, signal: AbortSignal): Promise<Buffer | null> {
  if (!body) return Buffer.alloc(0)
  const reader = body.getReader()
  const stop = () => void reader.cancel().catch(() => {})
  signal.addEventListener('abort', stop)
  try {
    const chunks: Uint8Array[] = []
    for (let size = 0; ;) {
      const { done, value } = await reader.read()
      signal.throwIfAborted()
      if (done) return Buffer.concat(chunks)
      const chunk = value as Uint8Array
      size += chunk.length
      if (size > most) return (stop(), null)
      chunks.push(chunk)
    }
  } finally {
    signal.removeEventListener('abort', stop)
  }
}
