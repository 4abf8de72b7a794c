/** A folder of text files as a zip, made and read here: the server never unpacks what somebody sends. */
import { strFromU8, strToU8, unzip, zip } from 'fflate'
import type { Unzipped, Zippable } from 'fflate'

/** Bytes, unpacked. */
const mostOfFile = 2_000_000
const mostOfAll = 24_000_000
const mostFiles = 20_000

export const zipped = (files: Readonly<Record<string, string>>): Promise<Uint8Array<ArrayBuffer>> =>
  new Promise((resolve, reject) => {
    const content: Zippable = Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)]))
    zip(content, { level: 6 }, (error, made) => (error ? reject(error) : resolve(made as Uint8Array<ArrayBuffer>)))
  })

/**
 * The files of a zip; a folder all of them lie in is left out of their names, and so is what an operating system adds.
 * Throws a sentence where it is no zip, or too much: sizes are looked at before anything is unpacked.
 */
export async function unzipped(bytes: Uint8Array): Promise<Record<string, string>> {
  let [size, count] = [0, 0]
  let tooMuch = ''
  const files = await new Promise<Unzipped>((resolve, reject) => {
    unzip(
      bytes,
      {
        filter: ({ name, originalSize }) => {
          if (name.endsWith('/') || /(^|\/)(\.|__MACOSX)/.test(name)) return false
          size += originalSize
          count++
          if (originalSize > mostOfFile) tooMuch ||= `“${name}” is larger than 2 MB.`
          else if (size > mostOfAll) tooMuch ||= 'It holds more than 24 MB.'
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
  const within = names.every(name => name.startsWith(`${top}/`)) && !['pages', 'posts', 'frame', 'menus'].includes(top!)
  return Object.fromEntries(
    Object.entries(files).map(([name, content]) => [within ? name.slice(top!.length + 1) : name, strFromU8(content)]),
  )
}
