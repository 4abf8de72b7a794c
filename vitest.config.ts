import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const root = fileURLToPath(new URL('.', import.meta.url)).replace(/\/$/, '')
const cluster = ['tests/support/cluster.setup.ts']

export default defineConfig({
  test: {
    projects: [
      { test: { name: 'core', include: ['core/**/*.test.ts', 'cli/**/*.test.ts', 'tests/docs/**/*.test.ts', 'tests/app/**/*.test.ts'], alias: { '~~': root, '~': `${root}/app` }, testTimeout: 60_000 } },
      { test: { name: 'server', include: ['tests/server/**/*.test.ts'], globalSetup: cluster, testTimeout: 30_000, hookTimeout: 120_000 } },
      // Each file serves an application of its own; two at a time are enough for two cores.
      { test: { name: 'application', include: ['tests/application/**/*.test.ts'], globalSetup: cluster, maxWorkers: 2, sequence: { groupOrder: 1 }, testTimeout: 180_000, hookTimeout: 120_000 } },
    ],
  },
})
