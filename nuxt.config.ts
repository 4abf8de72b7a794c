import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import tailwindcss from '@tailwindcss/vite'
import type { ManualChunksOption } from 'rollup'

/** What was checked and has not changed is not checked again. */
const again = (part: string) => ({
  incremental: true,
  tsBuildInfoFile: `../node_modules/.cache/types/${part}.tsbuildinfo`,
})

/**
 * What several screens share comes in one file instead of seventy: every request more is a wait more. What one
 * screen alone needs, such as charts, stays with it.
 */
const chunkOf: ManualChunksOption = (id, { getModuleInfo }) => {
  const { importers, dynamicImporters } = getModuleInfo(id)!
  if (importers.length + dynamicImporters.length < 2 || /chart/.test(id)) return undefined
  return 'shared'
}

export default defineNuxtConfig({
  modules: ['@pinia/nuxt', '@nuxt/eslint'],
  ssr: true,
  // What a file uses of ours it imports: who uses what can be read, and the lint against rings sees it.
  components: { dirs: [] },
  imports: { scan: false },
  pinia: { storesDirs: [] },
  devtools: { enabled: false },
  app: { head: { link: [{ rel: 'icon', href: '/favicon.svg', type: 'image/svg+xml' }] } },
  spaLoadingTemplate: false,
  // Public pages are plain HTML: no script of ours runs there and no page data is sent besides the page.
  routeRules: {
    '/**': { noScripts: true },
    '/loft': { ssr: false, noScripts: false },
    '/loft/**': { ssr: false, noScripts: false },
  },
  experimental: { payloadExtraction: false, appManifest: false },
  compatibilityDate: '2026-11-01',
  nitro: {
    errorHandler: '~~/server/error-handler.ts',
    compressPublicAssets: true,
    // What the demo brings as files.
    serverAssets: [{ baseName: 'demo', dir: '../demo/files' }],
    // What invoices are written in, found by name when the first is made.
    externals: {
      traceInclude: ['', '-Bold'].map(weight => `node_modules/dejavu-fonts-ttf/ttf/DejaVuSansCondensed${weight}.ttf`),
    },
    // Node 20 knows class fields and the rest as they are written; spelled out for older ones they are slower.
    esbuild: { options: { target: 'es2022' } },
    typescript: { tsConfig: { compilerOptions: again('server') } },
  },
  vite: {
    plugins: [tailwindcss()],
    // What it does in browsers needs a document, which the core in its worker has none of.
    resolve: {
      alias: {
        'decode-named-character-reference': fileURLToPath(import.meta.resolve('decode-named-character-reference')),
      },
    },
    worker: { format: 'es' },
    $client: { build: { rollupOptions: { output: { manualChunks: chunkOf } } } },
  },
  // Tests of screens see the names that screens see.
  typescript: {
    tsConfig: {
      compilerOptions: { noUncheckedIndexedAccess: true, ...again('app') },
      include: ['../tests/app/**/*'],
    },
    sharedTsConfig: { compilerOptions: again('shared') },
    nodeTsConfig: { compilerOptions: again('node') },
  },
  hooks: {
    // The thread that reads what people write is a file of its own.
    'nitro:init': nitro => {
      nitro.hooks.hook('compiled', async ({ options }) => {
        const { buildWorker } = await import('./server/reading/build-worker')
        await writeFile(join(options.output.serverDir, 'reading-worker.cjs'), await buildWorker())
      })
    },
  },
  telemetry: false,
  eslint: { config: { stylistic: false } },
})
