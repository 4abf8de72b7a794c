/** Where a page of another site would be on this one. */
import { isOwnAddress } from '../../../core/site/own-addresses'
import { slug } from '../../../core/site/slug'

/** Of an address: what only says by which way somebody came. */
const ofTheWay = /^(utm_\w+|fbclid|gclid|ref)$/i
const indexFile = /(^|\/)(index|default)\.(html?|php|aspx?)$/i
const pageFile = /\.(x?html?)$/i
/** Characters an address of the site may have. */
const mostOfAddress = 300

export interface Within {
  /** Where the other site begins: what lies below it is the site. Ends with a slash. */
  base: string
  /** Files of a folder have no address the world knows: they lose their ending. */
  files?: boolean
}

/** A page's address in one spelling: without what only says where in it, or by which way somebody came. */
export function onePage(address: string | URL): URL {
  const url = new URL(address)
  url.hash = ''
  for (const name of [...url.searchParams.keys()]) if (ofTheWay.test(name)) url.searchParams.delete(name)
  return url
}

/** Whether an address is of the site that is read. */
export const isWithin = (url: URL, { base }: Within): boolean => {
  const from = new URL(base)
  return url.origin === from.origin && (url.pathname + '/').startsWith(from.pathname)
}

/** Its address here, such as `/visit/ferry`; the same for every spelling of one page. Undefined where it could be none. */
export function siteAddress(of: URL, within: Within): string | undefined {
  if (!isWithin(of, within)) return undefined
  const url = onePage(of)
  let path = decoded(url.pathname.slice(new URL(within.base).pathname.length)).replace(indexFile, '$1')
  if (within.files) path = path.replace(pageFile, '')
  const parts = path
    .split('/')
    .map(part => (/^[\p{L}\p{N}._~-]+$/u.test(part) && !/^\.+$/.test(part) ? part : slug(part)))
    .filter(part => part !== '')
  const asked = slug(decoded(url.search))
  if (asked) parts.push([parts.pop(), asked].filter(Boolean).join('-'))
  const plain = `/${parts.join('/')}`
  const address = isOwnAddress(plain) ? `/old${plain}` : plain
  return address.length <= mostOfAddress ? address : undefined
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text).normalize('NFC')
  } catch {
    return text
  }
}
