/** The rulebook, site and visitors the worked cases share, for tests that need a small, known world. */
import { readFileSync } from 'node:fs'
import { caseFile } from '../../core/cases/case-file'
import type { CaseFile } from '../../core/cases/case-file'
import type { SiteRecord } from '../../core/kinds/kinds'
import type { Rulebook } from '../../core/rulebook/rulebook'
import type { Site } from '../../core/site/site'

type World = Omit<CaseFile, 'site'> & { book: Rulebook; site: Site; records: SiteRecord[] }

export function wexlowCase(name = 'gates'): World {
  const file = caseFile.parse(JSON.parse(readFileSync(new URL(`../vectors/${name}.json`, import.meta.url), 'utf8')))
  const { records = [], ...site } = file.site
  return { ...file, site, records, book: file.rulebook as unknown as Rulebook }
}
