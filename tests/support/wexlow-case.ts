/** The rulebook, site and visitors the worked cases share, for tests that need a small, known world. */
import { readFileSync } from 'node:fs'
import { caseFile } from '../../core/cases/case-file'
import type { CaseFile } from '../../core/cases/case-file'
import type { Rulebook } from '../../core/rulebook/rulebook'

export function wexlowCase(name = 'gates'): CaseFile & { book: Rulebook } {
  const file = caseFile.parse(JSON.parse(readFileSync(new URL(`../vectors/${name}.json`, import.meta.url), 'utf8')))
  return { ...file, book: file.rulebook as unknown as Rulebook }
}
