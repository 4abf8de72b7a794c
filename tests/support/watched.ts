/** A database whose statements are watched: counted, or cut off between any two. */
import type { Database } from '../../server/db/database'

const asked = new Set(['select', 'insert', 'update', 'delete', 'execute', '$count'])

/** `before` is called ahead of each statement, in transactions too; what it throws ends the work. */
export function watched(db: Database, before: () => void): Database {
  const wrap = <T extends object>(target: T): T =>
    new Proxy(target, {
      get(of, key) {
        const value = Reflect.get(of, key) as unknown
        if (typeof value !== 'function') return value
        const call = value as (...args: unknown[]) => unknown
        if (key === 'transaction')
          return (work: (tx: object) => unknown) => call.call(of, (tx: object) => work(wrap(tx)))
        if (!asked.has(String(key))) return call.bind(of)
        return (...args: unknown[]) => {
          before()
          return call.apply(of, args)
        }
      },
    })
  return wrap(db)
}

export class CutOff extends Error {}

/** A database that is gone after so many statements. */
export function cutOff(db: Database, after: number): Database {
  let left = after
  return watched(db, () => {
    if (left-- <= 0) throw new CutOff('cut off')
  })
}
