/** A folder of text files and pictures as a zip, made and read here: the server never unpacks what somebody sends. */
import { strFromU8, strToU8, unzip, zip } from 'fflate'
import type { Unzipped, Zippable } from 'fflate'
import { mostOfPicture } from '~~/core/pictures/picture-file'

/** Bytes, unpacked. */
const mostOf = { text: { one: 2_000_000, all: 24_000_000 }, picture: { one: mostOfPicture, all: 500_000_000 } }
const mostFiles = 20_000
const inMegabytes = (bytes: number) => `${Math.floor(bytes / 1_000_000)} MB`
/** Pictures lie in one folder, below the top or below the one folder around all. */
const sortOf = (name: string) =>
  /^([^/]+\/)?pictures\/[^/]+$/.test(name) && !/^(pages|posts)\//.test(name) ? 'picture' : 'text'

export const zipped = (
  files: Readonly<Record<string, string>>,
  pictures: Readonly<Record<string, Uint8Array>> = {},
): Promise<Uint8Array<ArrayBuffer>> =>
  new Promise((resolve, reject) => {
    const content: Zippable = {
      ...Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)])),
      // They are packed in themselves.
      ...Object.fromEntries(Object.entries(pictures).map(([name, bytes]) => [name, [bytes, { level: 0 }] as const])),
    } as Zippable
    zip(content, { level: 6 }, (error, made) => (error ? reject(error) : resolve(made as Uint8Array<ArrayBuffer>)))
  })

/** Texts and pictures, by their paths. */
export interface UnzippedFolder {
  files: Record<string, string>
  pictures: Record<string, Uint8Array>
}
const tops = ['pages', 'posts', 'frame', 'menus', 'pictures']

/**
 * The files of a zip; a folder all of them lie in is left out of their names, and so is what an operating system adds.
 * Throws a sentence where it is no zip, or too much: sizes are looked at before anything is unpacked.
 */
export async function unzipped(bytes: Uint8Array): Promise<UnzippedFolder> {
  const size = { text: 0, picture: 0 }
  let count = 0
  let tooMuch = ''
  const files = await new Promise<Unzipped>((resolve, reject) => {
    unzip(
      bytes,
      {
        filter: ({ name, originalSize }) => {
          if (name.endsWith('/') || /(^|\/)(\.|__MACOSX)/.test(name)) return false
          const sort = sortOf(name)
          size[sort] += originalSize
          count++
          if (originalSize > mostOf[sort].one) tooMuch ||= `“${name}” is larger than ${inMegabytes(mostOf[sort].one)}.`
          else if (size[sort] > mostOf[sort].all)
            tooMuch ||= `It holds more than ${inMegabytes(mostOf[sort].all)} of ${sort}${sort === 'picture' ? 's' : ''}.`
          else if (count > mostFiles) tooMuch ||= `It holds more than ${mostFiles} files.`
          return !tooMuch
        },
      },
      (error, found) => (error ? reject(error) : resolve(found)),
    )
  }).catch(() => {
    throw new Error('This is no zip that can be read.')
  })
  if (tooMuch) throw new Error(tooMuch)
  const names = Object.keys(files)
  if (!names.length) throw new Error('There is no file in it.')
  const [top] = names[0]!.split('/')
  const within = names.every(name => name.startsWith(`${top}/`)) && !tops.includes(top!)
  const own = (name: string) => (within ? name.slice(top!.length + 1) : name)
  const of = (sort: 'text' | 'picture') => Object.entries(files).filter(([name]) => sortOf(own(name)) === sort)
  return {
    files: Object.fromEntries(of('text').map(([name, content]) => [own(name), strFromU8(content)])),
    pictures: Object.fromEntries(of('picture').map(([name, content]) => [own(name), content])),
  }
}
