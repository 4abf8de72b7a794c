/** `npm run screenshots`: one picture of each main view, from a fresh demo, into docs/screenshots/. */
import { spawnSync } from 'node:child_process'
import { mkdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { startPostgres } from './postgres.mjs'
import { program } from './programs.mjs'
import { serve } from './serving.mjs'
import { build, installDependencies, prepare, root, temporaryFolder } from './steps.mjs'

await installDependencies({ tests: true })
await build()
/** A site of its own: the demo, or an operator's new one. */
async function site(demo) {
  const folder = temporaryFolder('pictures')
  process.env.BRAVIK_FILES = join(folder, 'files')
  const { url, stop } = await startPostgres(folder, { fast: true })
  const { keeperLink } = prepare(url, { BRAVIK_DEMO: demo })
  const server = await serve(url, { BRAVIK_DEMO: demo })
  const end = () => {
    server.kill()
    stop()
    rmSync(folder, { recursive: true, force: true })
  }
  return { address: server.url, keeperLink, end }
}
const [demo, own] = [await site('on'), await site('off')]
mkdirSync(join(root, 'docs/screenshots'), { recursive: true })
const { status } = spawnSync(...program('scripts/screenshots.ts', [demo.address, own.address + own.keeperLink]), {
  cwd: root,
  stdio: 'inherit',
})
demo.end()
own.end()
process.exit(status ?? 1)
