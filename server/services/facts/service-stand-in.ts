/** A stand-in for a service an operator would ask: the mill's tool desk, which knows how many spinning wheels somebody has on loan. */
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'

/** Made up. Whoever is not here has none. */
export const onLoan: Readonly<Record<string, number>> = {
  'guda@wexlow.example': 2,
  'mako@wexlow.example': 1,
}

export const toolDesk = 'tool-desk'

/** Starts on a free port of loopback: `/wheels?of=ADDRESS` answers `{"wheels": 2}`. */
export async function startServiceStandIn(): Promise<{ name: string; url: string; stop(): Promise<void> }> {
  const server = createServer((request, response) => {
    const { pathname, searchParams } = new URL(request.url ?? '/', 'http://desk')
    const known = pathname === '/wheels'
    response.writeHead(known ? 200 : 404, { 'content-type': 'application/json' })
    response.end(JSON.stringify(known ? { wheels: onLoan[searchParams.get('of') ?? ''] ?? 0 } : {}))
  })
  await new Promise<void>(resolve => server.listen(0, '127.0.0.1', resolve))
  const { port } = server.address() as AddressInfo
  return {
    name: toolDesk,
    url: `http://127.0.0.1:${port}`,
    stop: () =>
      new Promise(resolve => {
        server.closeAllConnections()
        server.close(() => resolve())
      }),
  }
}
