import { availableParallelism, tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import unimport from 'unimport/unplugin'
import { defineConfig } from 'vitest/config'

const root = fileURLToPath(new URL('.', import.meta.url)).replace(/\/$/, '')
const alias = { '~~': root, '~': `${root}/app` }
const cluster = ['tests/support/cluster.setup.ts']
/** The store of the console, against the server's own actions and a database. */
const store = 'tests/app/loft-store.test.ts'
/** What of Vue and Nuxt screens find without importing it, as Nuxt gives it to them. */
const names = unimport.vite({
  presets: ['vue'],
  imports: [
    'useRoute',
    'useRouter',
    'onBeforeRouteLeave',
    'useHead',
    'definePageMeta',
    'navigateTo',
    'useRequestEvent',
  ].map(name => ({ name, from: `${root}/tests/app/nuxt-names.ts` })),
  addons: { vueTemplate: true },
})

// A folder for files people fetch, shared by all tests of a run: what is in it is named by its bytes.
process.env.BRAVIK_FILES ??= join(tmpdir(), `bravik-test-files-${process.pid}`)

export default defineConfig({
  test: {
    // By itself it would leave one of two cores idle.
    maxWorkers: Math.max(2, availableParallelism()),
    projects: [
      {
        test: {
          name: 'core',
          include: ['core/**/*.test.ts', 'cli/**/*.test.ts', 'tests/docs/**/*.test.ts'],
          alias,
          isolate: false,
          testTimeout: 60_000,
        },
      },
      {
        plugins: [vue(), names],
        test: {
          name: 'screens',
          isolate: false,
          include: ['tests/app/**/*.test.ts'],
          exclude: [store],
          alias: { ...alias, 'vue-chartjs': `${root}/tests/app/chart-names.ts` },
          environment: 'happy-dom',
          testTimeout: 20_000,
        },
      },
      {
        plugins: [names],
        test: {
          name: 'server',
          isolate: false,
          include: ['tests/server/**/*.test.ts', store],
          alias,
          globalSetup: cluster,
          testTimeout: 60_000,
          hookTimeout: 120_000,
        },
      },
      // Each file serves an application of its own; two at a time are enough for two cores.
      {
        test: {
          name: 'application',
          isolate: false,
          include: ['tests/application/**/*.test.ts'],
          globalSetup: cluster,
          maxWorkers: 2,
          sequence: { groupOrder: 1 },
          expect: { poll: { timeout: 30_000 } },
          testTimeout: 240_000,
          hookTimeout: 240_000,
        },
      },
    ],
  },
})
