import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const root = fileURLToPath(new URL('..', import.meta.url)).replace(/\/$/, '')

export default defineConfig({
  test: {
    root,
    include: ['core/**/*.test.ts'],
    alias: { '~~': root, '~': `${root}/app` },
    setupFiles: ['scripts/mutants.setup.ts'],
    isolate: false,
    testTimeout: 60_000,
  },
})
