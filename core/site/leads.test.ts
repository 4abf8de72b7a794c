import { expect, it } from 'vitest'
import { mayLead } from './leads'

const hosts = ['book.wexlow.example', 'Dye.Wexlow.example', 'old.wexlow.example:8443']

it.each<[string, boolean]>([
  ['/join', true],
  ['/join?from=here#top', true],
  ['https://book.wexlow.example/', true],
  ['https://BOOK.wexlow.example/rooms?from=mill', true],
  ['https://dye.wexlow.example/vat', true],
  ['https://old.wexlow.example:8443/x', true],
  ['https://book.wexlow.example:443/x', true],
  ['https://book.wexlow.example', false],
  ['https://book.wexlow.example:8443/', false],
  ['https://old.wexlow.example/x', false],
  ['http://book.wexlow.example/', false],
  ['https://book.wexlow.example@evil.example/', false],
  ['https://name@book.wexlow.example/', false],
  ['https://evil.example/book.wexlow.example/', false],
  ['https://book.wexlow.example.evil.example/', false],
  ['https://book.wexlow.example\\@evil.example/', false],
  ['https:\\\\book.wexlow.example/', false],
  ['https://book.wexlow.example/\nx', false],
  ['https:///book.wexlow.example/', false],
  ['//book.wexlow.example/', false],
  ['javascript:alert(1)//', false],
  ['book.wexlow.example/', false],
  ['', false],
])('%j may be led to: %s', (to, may) => {
  expect(mayLead(to, hosts)).toBe(may)
})
