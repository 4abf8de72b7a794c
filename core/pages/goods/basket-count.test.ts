import { expect, it } from 'vitest'
import { basketCountWords } from './basket-count'

it('says how many pieces lie in a basket, and nothing of an empty one', () => {
  expect([basketCountWords([{ quantity: 2 }, { quantity: 3 }]), basketCountWords([]), basketCountWords()]).toEqual([
    ' (5)',
    '',
    '',
  ])
})
