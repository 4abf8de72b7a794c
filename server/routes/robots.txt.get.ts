import { defineEventHandler, setResponseHeaders } from 'h3'
import { siteAddress } from '../services/mail/mail'

/** Where nothing is to be found (RFC 9309), and where the map is. Gates need no help from it: what is refused is never sent. */
const closed = ['/loft', '/walk/', '/api/', '/account', '/search', '/fetch/', '/feed/own/', '/sign-', '/pay', '/apply']

export default defineEventHandler(event => {
  setResponseHeaders(event, {
    'content-type': 'text/plain; charset=utf-8',
    'cache-control': 'public, max-age=3600',
  })
  const lines = ['User-agent: *', ...closed.map(path => `Disallow: ${path}`)]
  return `${lines.join('\n')}\n\nSitemap: ${siteAddress()}/sitemap.xml\n`
})
