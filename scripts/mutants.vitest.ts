import { statSync } from 'node:fs'
import { dirname } from 'node:path'
import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'
import { BaseSequencer } from 'vitest/node'
import type { TestSpecification } from 'vitest/node'

const root = fileURLToPath(new URL('..', import.meta.url)).replace(/\/$/, '')

/** What is tried, by folder: tests that stand beside it notice first, and once one does the others are not asked. */
const tried = (process.env.BRAVIK_MUTANTS ?? '').split(',')
/** Only those and the worked cases: what they do not notice others may, so that the score is no higher than it says. */
const nearOnly = process.env.BRAVIK_MUTANTS_NEAR === '1'
const isBeside = ({ moduleId }: TestSpecification) => tried.some(path => path && dirname(moduleId).endsWith(path))

class NearestFirst extends BaseSequencer {
  override sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const size = new Map(files.map(file => [file, statSync(file.moduleId).size]))
    return Promise.resolve(
      files.toSorted((a, b) => Number(isBeside(b)) - Number(isBeside(a)) || size.get(a)! - size.get(b)!),
    )
  }
}

export default defineConfig({
  test: {
    root,
    include: nearOnly
      ? ['core/cases/*.test.ts', ...tried.map(folder => `${folder}/**/*.test.ts`)]
      : ['core/**/*.test.ts'],
    alias: { '~~': root, '~': `${root}/app` },
    setupFiles: ['scripts/mutants.setup.ts'],
    isolate: false,
    sequence: { sequencer: NearestFirst },
    testTimeout: 60_000,
  },
})
