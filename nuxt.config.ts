import { existsSync } from 'node:fs'
import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import tailwindcss from '@tailwindcss/vite'
import type { Plugin } from 'vite'

const isThere = (name: string) => existsSync(fileURLToPath(new URL(`node_modules/${name}`, import.meta.url)))

/** What was checked and has not changed is not checked again. */
const again = (part: string) => ({
  incremental: true,
  tsBuildInfoFile: `../node_modules/.cache/types/${part}.tsbuildinfo`,
})

interface ModuleUse {
  importers: readonly string[]
  dynamicImporters: readonly string[]
}
/**
 * What several screens share comes in one file instead of seventy: every request more is a wait more. What one
 * screen alone needs, such as charts, stays with it.
 */
const chunkOf = (id: string, { getModuleInfo }: { getModuleInfo(id: string): ModuleUse | null }) => {
  const { importers, dynamicImporters } = getModuleInfo(id)!
  if (importers.length + dynamicImporters.length < 2 || /chart/.test(id)) return undefined
  return 'shared'
}

// `package.json` overrides the Vite this Nuxt asks for by the next one, which the style sheets and the screens' compiler
// bring along anyhow: Nuxt knows both, and the browser's part is built in a third of the time.

/**
 * The console is never rendered on the server: what it consists of is left out there, which is half of all there is to
 * build. What its pages say of themselves (`?macro`) stands below, in `pages:extend`.
 */
const consoleInBrowserOnly: Plugin = {
  name: 'console-in-browser-only',
  enforce: 'pre',
  applyToEnvironment: environment => environment.name === 'ssr',
  load: id =>
    /\/app\/(pages\/loft\/.*|layouts\/loft)\.vue(\?macro=true)?$/.test(id) ? '<template><div /></template>' : null,
}

export default defineNuxtConfig({
  // What only tests need is not installed for running.
  modules: ['@pinia/nuxt', ...(isThere('@nuxt/eslint') ? ['@nuxt/eslint'] : [])],
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
    // Brotli takes longer than all else that is made of the server, for a sixth fewer bytes of what staff load once.
    compressPublicAssets: { gzip: true, brotli: false },
    logging: { compressedSizes: false },
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
    plugins: [tailwindcss(), consoleInBrowserOnly],
    // What it does in browsers needs a document, which the core in its worker has none of.
    resolve: {
      alias: {
        'decode-named-character-reference': fileURLToPath(import.meta.resolve('decode-named-character-reference')),
      },
    },
    worker: { format: 'es' },
    build: { reportCompressedSize: false },
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
    // Every address of the console has its frame.
    'pages:extend': pages => {
      for (const page of pages) if (/^\/loft(\/|$)/.test(page.path)) page.meta = { ...page.meta, layout: 'loft' }
    },
    // The thread that reads what people write is a file of its own.
    'nitro:init': nitro => {
      nitro.hooks.hook('compiled', async ({ options }) => {
        const { buildWorker } = await import('./server/reading/build-worker')
        await writeFile(join(options.output.serverDir, 'reading-worker.cjs'), await buildWorker())
      })
    },
  },
  telemetry: false,
  // Nobody reads them: the server is run without.
  sourcemap: false,
  ...(isThere('@nuxt/eslint') ? { eslint: { config: { stylistic: false } } } : {}),
})
