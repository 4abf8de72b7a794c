/** Nothing starts on an environment that is not right, and no process lives on that cannot serve. */
import { defineNitroPlugin } from 'nitropack/runtime'
import { EnvironmentProblem, environment } from '../environment'
import { log } from '../log'

const cannotListen: ReadonlySet<string> = new Set(['EADDRINUSE', 'EACCES', 'EADDRNOTAVAIL', 'ENOTFOUND', 'EINVAL'])

export default defineNitroPlugin(() => {
  try {
    environment()
  } catch (error) {
    if (!(error instanceof EnvironmentProblem)) throw error
    process.stderr.write(`${error.message}\n`)
    process.exit(1)
  }
  // Whatever a library prints goes through the log, which knows what must not be told.
  const said = (parts: unknown[]) => (typeof parts[0] === 'string' ? parts[0].slice(0, 80) : 'said')
  const errorOf = (parts: unknown[]) => parts.find(one => one instanceof Error)
  console.log = (...parts) => log().info(said(parts))
  console.warn = (...parts) => log().warn({ err: errorOf(parts) }, said(parts))
  console.error = (...parts) => log().error({ err: errorOf(parts) }, said(parts))
  process.on('uncaughtException', (error: NodeJS.ErrnoException) => {
    if (error.syscall !== 'listen' && !(error.syscall === 'getaddrinfo' && cannotListen.has(error.code ?? '')))
      return log().error({ err: error }, 'uncaught')
    process.stderr.write(`Cannot listen on port ${environment().PORT} of ${environment().HOST}: ${error.code}.\n`)
    process.exit(1)
  })
  process.on('unhandledRejection', error => log().error({ err: error }, 'unhandled'))
  // Whoever started this server and asked to be told about it is gone: it ends with them, as on a signal.
  process.on('disconnect', () => process.kill(process.pid, 'SIGTERM'))
})
