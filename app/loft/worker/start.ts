import { coreIsMadeBy } from '~/loft/core/worker/ask-core'

/** The console asks the core in a worker of its own. */
export const startCore = (): void =>
  coreIsMadeBy(() => new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module' }))
