import { createHash } from 'node:crypto'
import { rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { temporaryFolder } from '../../scripts/steps.mjs'
import { Problem } from '../../server/problem'
import { readStoredFile } from '../../server/services/files/file-type'

const folder = temporaryFolder('file-type')
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const told = async (bytes: Buffer, name = 'words.txt') => {
  const path = join(folder, 'file')
  writeFileSync(path, bytes)
  try {
    return await readStoredFile(path, name, ['txt', 'pdf'])
  } catch (error) {
    if (error instanceof Problem) return error.reason
    throw error
  }
}
const megabyte = 1_048_576
const isText = (bytes: Buffer) => {
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes)
    return !bytes.includes(0)
  } catch {
    return false
  }
}

describe('a file that says it is text', () => {
  it('is text wherever its characters are cut as it is read, and none where one is broken', async () => {
    const tails = ['é', '€', '🧶', '\xFF', '\xC3', '\xE2\x82', '\xF0\x9F\xA7', '\x80', '\0'].map((text, i) =>
      i < 3 ? Buffer.from(text, 'utf8') : Buffer.from(text, 'latin1'),
    )
    for (const tail of tails)
      for (const before of [0, megabyte - 4, megabyte - 3, megabyte - 2, megabyte - 1, megabyte])
        for (const after of ['', 'é', 'z'.repeat(megabyte)]) {
          const bytes = Buffer.concat([Buffer.alloc(before, 'a'), tail, Buffer.from(after)])
          const sha256 = createHash('sha256').update(bytes).digest('hex')
          expect(await told(bytes), `${tail.toString('hex')} after ${before}`).toEqual(
            isText(bytes) ? { sha256, size: bytes.length, type: 'txt' } : 'file-not-as-named',
          )
        }
  })

  it('is of a kind that is taken, as it says', async () => {
    expect(await told(Buffer.from('a'), 'words.csv')).toBe('file-type-unknown')
    expect(await told(Buffer.from('a'), 'words.pdf')).toBe('file-not-as-named')
    expect(await told(Buffer.from('%PDF-1.7\n'), 'words.txt')).toBe('file-not-as-named')
    expect(await told(Buffer.from('%PDF-1.7\n'), 'words.pdf')).toMatchObject({ type: 'pdf', size: 9 })
  })
})
