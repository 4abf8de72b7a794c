/** A site map, as sitemaps.org describes it (0.9): addresses of pages, or of further site maps. */
import { Parser } from 'htmlparser2'

/** Addresses of pages and of further maps; of what is no site map, none. */
export function readSiteMap(xml: string): { pages: string[]; maps: string[] } {
  const pages: string[] = []
  const maps: string[] = []
  let within = ''
  let address: string | undefined
  const parser = new Parser(
    {
      onopentag: name => {
        if (name === 'url' || name === 'sitemap') within = name
        else if (name === 'loc') address = ''
      },
      ontext: text => {
        if (address !== undefined) address += text
      },
      onclosetag: name => {
        if (name !== 'loc' || address === undefined) return
        const said = address.trim()
        if (said) (within === 'sitemap' ? maps : pages).push(said)
        address = undefined
      },
    },
    { xmlMode: true, decodeEntities: true },
  )
  parser.end(xml)
  return { pages, maps }
}
