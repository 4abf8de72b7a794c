import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { leafKeys } from '../../core/conditions/leaves/leaves'
import { issueCodes } from '../../core/errors'

const rules = readFileSync(new URL('../../docs/rules.md', import.meta.url), 'utf8')
const rowsOf = (heading: string) => {
  const section = rules.split(`## ${heading}\n`)[1]!.split('\n## ')[0]!
  return [...section.matchAll(/^\| `([^`]+)`/gm)].map(match => match[1]!)
}

it('docs/rules.md has a row for every issue code and none besides', () => {
  expect(rowsOf('Issues').toSorted()).toEqual(Object.keys(issueCodes).toSorted())
})

it('docs/rules.md has a row for every condition and none besides', () => {
  expect(rowsOf('Conditions').toSorted()).toEqual(['all', 'any', 'not', ...leafKeys].toSorted())
})
