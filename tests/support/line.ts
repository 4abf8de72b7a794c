/** A line to a database that can go deaf: what is sent is taken and never answered, as when a cable is pulled. */
import { connect, createServer } from 'node:net'
import type { AddressInfo, Socket } from 'node:net'

export interface Line {
  url: string
  /** Freezes connections of this application name, or all; new ones too until `thaw`. */
  freeze(application?: string): void
  thaw(): void
  /** Breaks every connection there is; new ones come through. */
  cut(): void
  close(): Promise<void>
}

export async function lineTo(databaseUrl: string): Promise<Line> {
  const target = new URL(databaseUrl)
  const pairs: { near: Socket; far: Socket; name: string }[] = []
  let frozen: { application: string | undefined } | undefined
  const isFrozen = (name: string) =>
    frozen !== undefined && (frozen.application === undefined || name === frozen.application)
  const server = createServer(near => {
    const far = connect(Number(target.port), target.hostname)
    const pair = { near, far, name: '' }
    pairs.push(pair)
    near.once('data', (first: Buffer) => {
      // The startup message names the application (PostgreSQL protocol, 55.7).
      pair.name = /application_name\0([^\0]*)\0/.exec(first.toString('latin1'))?.[1] ?? ''
    })
    near.on('data', (data: Buffer) => {
      if (!isFrozen(pair.name)) far.write(data)
    })
    far.on('data', (data: Buffer) => {
      if (!isFrozen(pair.name)) near.write(data)
    })
    const over = () => {
      near.destroy()
      far.destroy()
    }
    for (const socket of [near, far]) socket.on('error', over)
    // A deaf line does not tell that the other end is gone either.
    near.on('close', over)
    far.on('close', () => {
      if (!isFrozen(pair.name)) over()
    })
  })
  const cut = () => {
    for (const { near, far } of pairs.splice(0)) {
      near.destroy()
      far.destroy()
    }
  }
  await new Promise<void>(resolve => server.listen(0, '127.0.0.1', resolve))
  const url = new URL(databaseUrl)
  url.port = String((server.address() as AddressInfo).port)
  return {
    url: url.href,
    freeze: application => {
      frozen = { application }
    },
    thaw: () => {
      frozen = undefined
    },
    cut,
    close: async () => {
      cut()
      await new Promise<void>(resolve => server.close(() => resolve()))
    },
  }
}
