/** The reading thread in one file: written beside the built server, or run as it is by tests and the command. */
import { fileURLToPath } from 'node:url'
import { build } from 'esbuild'

let built: Promise<string> | undefined
export const buildWorker = (): Promise<string> =>
  (built ??= build({
    entryPoints: [fileURLToPath(new URL('reading-worker.ts', import.meta.url))],
    bundle: true,
    write: false,
    platform: 'node',
    target: 'node20',
    format: 'cjs',
    logLevel: 'silent',
  }).then(({ outputFiles }) => outputFiles[0]!.text))
