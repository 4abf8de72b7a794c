import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cleanFileName, longestFileName, nameOfFile, readFileName, sizeWords, typeInName } from './stored-file'

describe('a stored file', () => {
  it('says in its name what it is', () => {
    const file = { sha256: 'ab'.repeat(32), size: 48_213, type: 'pdf' } as const
    expect(nameOfFile(file)).toBe(`${'ab'.repeat(32)}-48213.pdf`)
    expect(readFileName(nameOfFile(file))).toEqual(file)
    expect(readFileName(`${'ab'.repeat(32)}-48213.exe`)).toBeUndefined()
    expect(readFileName(`../${nameOfFile(file)}`)).toBeUndefined()
  })

  it('is known by the ending of the name it came with', () => {
    expect([typeInName('Cowl.PDF'), typeInName('a.jpeg'), typeInName('list.csv')]).toEqual(['pdf', 'jpg', 'csv'])
    expect([typeInName('run.exe'), typeInName('pdf'), typeInName('constructor')]).toEqual(Array(3).fill(undefined))
  })
})

describe('the name people get it by', () => {
  it('is the last part of a path, without what cannot be seen', () => {
    expect(cleanFileName('../../etc/Harbour\r\ncowl.pdf')).toBe('Harbourcowl.pdf')
    expect(cleanFileName('C:\\mill\\chart.pdf')).toBe('chart.pdf')
    expect(cleanFileName('gpj\u202Efdp.pdf')).toBe('gpjfdp.pdf')
    expect(cleanFileName('..')).toBe('')
  })

  it('is never longer than is kept, keeps its ending, and is clean already when it is cleaned again', () => {
    const long = `${'a'.repeat(4000)}\r\n../${'ü'.repeat(4000)}.pdf`
    expect(cleanFileName(long)).toMatch(/^ü+\.pdf$/)
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 400 }), given => {
        const name = cleanFileName(given)
        expect(name.length).toBeLessThanOrEqual(longestFileName)
        expect(name).not.toMatch(/[\p{Cc}/\\"]/u)
        expect(cleanFileName(name)).toBe(name)
      }),
    )
  })
})

it('has its size in words', () => {
  expect([0, 640, 12_345, 3_449_000, 1_000_000_000].map(bytes => sizeWords(bytes))).toEqual([
    '0 bytes',
    '640 bytes',
    '12 kB',
    '3.4 MB',
    '1 GB',
  ])
})
