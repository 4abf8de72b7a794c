/** When the database may be read and written. */
import { environment } from './environment'

let prepared: Promise<void> | undefined

/**
 * At once, as a rule. `npm start` lets a server load while it brings the database up to date, which takes as long: that
 * server waits until it is told.
 */
export const databasePrepared = (): Promise<void> =>
  (prepared ??= environment().BRAVIK_PREPARING === undefined ? Promise.resolve() : toldSo())

function toldSo(): Promise<void> {
  return new Promise(resolve => {
    const hear = (message: unknown) => {
      if (message !== 'prepared') return
      process.off('message', hear)
      resolve()
    }
    process.on('message', hear)
  })
}
