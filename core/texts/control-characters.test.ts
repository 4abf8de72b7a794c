import { expect, it } from 'vitest'
import { notInXml, oneLine } from './control-characters'

it('leaves letters of every script, and nothing XML cannot hold', () => {
  expect('Ł\u0000u\u0001\u000bc\ud800ja 🧶\tÉ\n\uffff'.replaceAll(notInXml, '')).toBe('Łucja 🧶\tÉ\n')
  expect(oneLine('Una\r\n\tBest\u2028\u0085X')).toBe('Una Best X')
})
