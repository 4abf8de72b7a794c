/** One PostgreSQL cluster for a test run: the one `npm test` started, or one of its own. */
import { rmSync } from 'node:fs'
import type { TestProject } from 'vitest/node'
import { startPostgres } from '../../scripts/postgres.mjs'
import { temporaryFolder } from '../../scripts/steps.mjs'

export default async function setup(project: TestProject): Promise<() => void> {
  const given = process.env.BRAVIK_TEST_CLUSTER
  if (given) {
    project.provide('clusterUrl', given)
    return () => {}
  }
  const folder = temporaryFolder('test')
  const { url, stop } = await startPostgres(folder, { fast: true })
  project.provide('clusterUrl', url)
  return () => {
    stop()
    rmSync(folder, { recursive: true, force: true })
  }
}
