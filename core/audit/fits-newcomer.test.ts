import { describe, expect, it } from 'vitest'
import { wexlowCase } from '../../tests/support/wexlow-case'
import type { Condition } from '../conditions/condition'
import { CompiledRules } from '../gates/compiled'
import { fitsNewcomer } from './fits-newcomer'

const { book, site } = wexlowCase()
const rules = new CompiledRules(book, site)
const fits = (who: Condition) => fitsNewcomer(rules, who, Date.parse('2026-12-02T10:00:00Z'))

describe('whether somebody new fits a sentence', () => {
  it.each([
    ['what they answered', { fact: { name: 'spindles', atLeast: 10 } }, true],
    ['a level an invitation brings', { level: { in: ['guild'] } }, true],
    ['anybody', { everyone: true }, true],
    ['nobody', { nobody: true }, false],
    ['somebody who is not signed in', { signedIn: false }, false],
    [
      'a contradiction',
      { all: [{ role: { anyOf: ['stockist'] } }, { not: { role: { anyOf: ['stockist'] } } }] },
      false,
    ],
  ] as [string, Condition, boolean][])('by %s', (_, who, expected) => {
    expect(fits(who)).toBe(expected)
  })
})
