/** A folder of HTML files, read here: its pages as texts, its pictures kept at the server. */
import { textOfPage } from '~~/core/outside/page-text'
import { keepPicture } from '~/loft/kit/files/stored-pictures'

/** Pages, bytes of one and of all, and pictures. */
const most = { pages: 500, page: 2_000_000, all: 20_000_000, pictures: 1000 }
const isPage = (path: string) => /\.(x?html?)$/i.test(path)
const isPicture = (path: string) => /\.(png|jpe?g|gif|webp|avif)$/i.test(path)

export interface HtmlFiles {
  name: string
  files: Record<string, string>
  /** Names of kept pictures, by path. */
  pictures: Record<string, string>
  /** Of pictures that could not be kept, and why. */
  refused: { url: string; why: string }[]
}

/** `told` hears how far it is. Throws a sentence where there is no page in it, or too much. */
export async function readHtmlFiles(chosen: readonly File[], told: (said: string) => void): Promise<HtmlFiles> {
  const [first] = chosen
  const top = first?.webkitRelativePath.split('/')[0] ?? ''
  const pathOf = (file: File) => file.webkitRelativePath.slice(top.length + 1) || file.name
  const pages = chosen.filter(file => isPage(file.name))
  const pictures = chosen.filter(file => isPicture(file.name))
  if (!pages.length) throw new Error('There is no HTML file in it.')
  if (pages.length > most.pages) throw new Error(`It holds more than ${most.pages} pages.`)
  if (pictures.length > most.pictures) throw new Error(`It holds more than ${most.pictures} pictures.`)
  const large = pages.find(file => file.size > most.page)
  if (large) throw new Error(`“${pathOf(large)}” is larger than 2 MB.`)
  if (pages.reduce((sum, file) => sum + file.size, 0) > most.all) throw new Error('Its pages are more than 20 MB.')
  const found: HtmlFiles = { name: top || 'The folder', files: {}, pictures: {}, refused: [] }
  for (const file of pages) found.files[pathOf(file)] = textOfPage(new Uint8Array(await file.arrayBuffer()))
  for (const [i, file] of pictures.entries()) {
    told(`Picture ${i + 1} of ${pictures.length}`)
    const path = pathOf(file)
    await keepPicture(file).then(
      name => (found.pictures[path] = name),
      (error: Error) => found.refused.push({ url: path, why: error.message }),
    )
  }
  return found
}
