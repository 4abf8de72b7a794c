/** Ports of this machine for servers that are started for a while. */
import { createServer } from 'node:net'

/**
 * Below those the system hands out for outgoing connections (from 32768 on Linux): one of these could be given away
 * between being found free here and being listened on by the server it was found for.
 */
const [firstPort, lastPort] = [15_000, 31_999]

const isFree = port =>
  new Promise(resolve => {
    const probe = createServer()
    probe.once('error', () => resolve(false))
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(true)))
  })

/** A port of 127.0.0.1 nobody listens on now. Any but the same is likely to come next. */
export async function freePort() {
  for (let tries = 0; tries < 50; tries++) {
    const port = firstPort + Math.floor(Math.random() * (lastPort - firstPort + 1))
    if (await isFree(port)) return port
  }
  throw new Error(`No port of 127.0.0.1 between ${firstPort} and ${lastPort} is free.`)
}
