/**
 * One start at a time on one data folder. The lock is a socket in Linux's
 * abstract namespace: the kernel lets go of it with the process, however that
 * ends, so there is never a stale one to judge.
 */
import { createHash } from 'node:crypto'
import { mkdirSync, readFileSync, realpathSync } from 'node:fs'
import { createServer } from 'node:net'
import { join } from 'node:path'

/** Takes the folder for this process; throws a sentence where another process has it. */
export async function lockFolder(folder) {
  mkdirSync(folder, { recursive: true })
  const name = `bravik-${createHash('sha256').update(realpathSync(folder)).digest('hex').slice(0, 32)}`
  const lock = createServer(socket => socket.destroy())
  await new Promise((resolve, reject) => {
    lock.once('error', error => reject(error.code === 'EADDRINUSE' ? new Error(takenBy(folder)) : error))
    lock.listen(`\0${name}`, resolve)
  })
  lock.unref()
}

function takenBy(folder) {
  const note = readNote(folder)
  const who = note ? ` (process ${note.pid}${note.address ? `, ${note.address}` : ''})` : ''
  return `Bravik already runs on the data folder ${folder}${who}. Stop it first, or give this one another folder with BRAVIK_DATA.`
}

/** What a running start notes about itself; undefined where there is no such note. */
export function readNote(folder) {
  try {
    return JSON.parse(readFileSync(join(folder, 'running.json'), 'utf8'))
  } catch {
    return undefined
  }
}

/** Throws a sentence where the port cannot be had. Whoever holds it need not answer for that. */
export function testPort(port, host) {
  return new Promise((resolve, reject) => {
    const probe = createServer()
    probe.once('error', error => reject(new Error(portSentence(error.code, port, host))))
    probe.listen(port, host, () => probe.close(() => resolve()))
  })
}

function portSentence(code, port, host) {
  if (code === 'EADDRINUSE')
    return `Port ${port} of ${host} is taken by another program. Stop it, or choose another with PORT.`
  if (code === 'EACCES')
    return `Port ${port} may be used by root only. Choose one from 1024 on with PORT, and put a proxy before it.`
  return `Bravik cannot listen on ${host}, port ${port}: ${code}. HOST and PORT say where.`
}
