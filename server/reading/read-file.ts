/** One file of a folder, read: what stands in it and where, or what is not right. What comes out is data, for it is read in a thread of its own. */
import { readPage, readYaml } from './page-file'
import type { FileIssue, Lines, ReadPage } from './page-file'

/** What a file may hold, by where it lies. */
const places = /^(pages|posts)\/.+\.md$|^frame\/(header|banner|footer|shelf)\.md$|^menus\/([a-z0-9-]+)\.yaml$/

export type FileRead =
  | { issues: FileIssue[] }
  | { menu: string; data: Record<string, unknown>; lines: Lines }
  | { holds: 'page' | 'post' | { frame: string }; page: ReadPage }

export function readFile(file: string, source: string): FileRead {
  const place = places.exec(file)
  if (!place) {
    const message = 'Files lie in pages/, posts/ and frame/ as .md, in menus/ as .yaml, and pictures in pictures/.'
    return { issues: [{ file, line: 1, message }] }
  }
  const [, many, frame, menu] = place
  if (menu) {
    const read = readYaml(file, source)
    return 'issues' in read ? read : { menu, ...read }
  }
  const read = readPage(file, source)
  if ('issues' in read) return read
  return { holds: frame ? { frame } : many === 'pages' ? 'page' : 'post', page: read.page }
}
