/** Sending a page that stands ready: as it is kept, or that it has not changed. */
import { getHeader, setResponseHeader, setResponseStatus } from 'h3'
import type { H3Event } from 'h3'
import { encodingFor, packedPage, piecesOf } from '../services/pages/kept-pages'
import type { KeptPage } from '../services/pages/kept-pages'
import type { Slots } from '../services/pages/slots'

export function askToSignIn(event: H3Event, siteName: string): void {
  setResponseHeader(event, 'www-authenticate', `Session realm="${siteName.replaceAll(/[^ -~]|["\\]/g, '')}"`)
}

/** Of a page with somebody's own words in it, what is sent is not the view alone. Only what is there for them is kept. */
export function isNotModified(event: H3Event, status: number, key: string, slots: Slots | undefined): boolean {
  if (status !== 200) return false
  const tag = `W/"${slots ? `${key}.${slots.fingerprint}` : key}"`
  setResponseHeader(event, 'etag', tag)
  if (getHeader(event, 'if-none-match') !== tag) return false
  setResponseStatus(event, 304)
  return true
}

export function sendKept(event: H3Event, key: string, page: KeptPage, slots: Slots | undefined): Buffer | string {
  setResponseHeader(event, 'content-type', 'text/html;charset=utf-8')
  if (slots) return slots.fillPieces(piecesOf(page))
  const vary = event.node.res.getHeader('vary')
  setResponseHeader(event, 'vary', vary ? `${String(vary)}, Accept-Encoding` : 'Accept-Encoding')
  const encoding = encodingFor(getHeader(event, 'accept-encoding'))
  const packed = encoding && packedPage(key, page, encoding)
  if (packed) setResponseHeader(event, 'content-encoding', encoding)
  return packed ?? page.html
}
