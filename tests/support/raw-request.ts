/** Requests as they are written: `fetch` would tidy up their paths and headers first. */
import { request } from 'node:http'

export interface RawAnswer {
  status: number
  headers: Record<string, string | string[] | undefined>
  text: string
}

export function rawRequest(
  url: string,
  path: string,
  {
    method = 'GET',
    headers = {},
    body,
  }: { method?: string; headers?: Record<string, string>; body?: string | Buffer } = {},
): Promise<RawAnswer> {
  const { hostname, port } = new URL(url)
  return new Promise((resolve, reject) => {
    const asked = request({ hostname, port, method, path, headers }, answer => {
      const chunks: Buffer[] = []
      answer.on('data', (chunk: Buffer) => chunks.push(chunk))
      answer.on('end', () =>
        resolve({
          status: answer.statusCode ?? 0,
          headers: answer.headers,
          text: Buffer.concat(chunks).toString('utf8'),
        }),
      )
      answer.on('error', reject)
    })
    asked.on('error', reject)
    asked.end(body)
  })
}
