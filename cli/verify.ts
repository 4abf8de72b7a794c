/** `bravik verify FILE…`: runs case files. */
import { caseFile } from '../core/cases/case-file'
import type { CaseFile } from '../core/cases/case-file'
import { runCases } from '../core/cases/run-cases'
import type { CaseResult } from '../core/cases/run-cases'
import { pointer } from '../core/pointer'
import { FileProblem, readJsonFile } from './read-file'

export interface Verified {
  file: string
  results: CaseResult[]
}

/** Throws `FileProblem`, which names file and place, for one that is no case file. */
export function readCaseFile(file: string): CaseFile {
  const parsed = caseFile.safeParse(readJsonFile(file))
  if (parsed.success) return parsed.data
  const issue = parsed.error.issues[0]!
  throw new FileProblem(`${file}: ${pointer(issue.path as (string | number)[]) || '/'}: ${issue.message}`)
}

export const verifyFile = (file: string, nowMs: number): Verified => ({
  file,
  results: runCases(readCaseFile(file), nowMs),
})

const failed = (one: CaseResult) => !one.passed

export function counts(all: Verified[]): { passed: number; failed: number } {
  const results = all.flatMap(one => one.results)
  return { passed: results.length - results.filter(failed).length, failed: results.filter(failed).length }
}

/** One line per failing case, then the count. */
export function verifiedLines(all: Verified[]): string[] {
  const lines = all.flatMap(({ file, results }) =>
    results
      .filter(failed)
      .map(
        one =>
          `${file}: ${one.name}: ${one.problem ?? one.differences.map(({ key, expected, found }) => `${key}: expected ${JSON.stringify(expected)}, found ${JSON.stringify(found) ?? 'nothing'}`).join('; ')}`,
      ),
  )
  const { passed, failed: count } = counts(all)
  return [...lines, `${passed} passed, ${count} failed`]
}
