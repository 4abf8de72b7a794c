import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { caseFile } from './case-file'
import { runCases } from './run-cases'

const folder = new URL('../../tests/vectors/', import.meta.url)
const files = readdirSync(folder).filter(name => name.endsWith('.json'))

describe('the worked cases', () => {
  it.each(files)('of %s all pass', name => {
    const file = caseFile.parse(JSON.parse(readFileSync(new URL(name, folder), 'utf8')))
    const failed = runCases(file, 0).filter(one => !one.passed)
    expect(failed).toEqual([])
    expect(file.cases.length).toBeGreaterThan(10)
  })

  it('notice an answer that is wrong, and a visitor who is not there', () => {
    const file = caseFile.parse(JSON.parse(readFileSync(new URL('gates.json', folder), 'utf8')))
    const ask = file.cases[0]!
    const [wrong, stranger] = runCases(
      {
        ...file,
        cases: [
          { ...ask, expect: { open: false } },
          { ...ask, visitor: 'stranger' },
        ],
      },
      0,
    )
    expect(wrong).toMatchObject({ passed: false, differences: [{ key: 'open', expected: false, found: true }] })
    expect(stranger).toMatchObject({ passed: false, problem: 'there is no visitor "stranger"' })
  })
})
