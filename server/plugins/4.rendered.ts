/** What becomes of a rendered page: kept for its view key where the site's own renderer made it; the console's scripts named by what they hold. */
import { createHash } from 'node:crypto'
import { defineNitroPlugin } from 'nitropack/runtime'
import { contentPolicy } from '../content-policy'
import { keepPage } from '../services/pages/kept-pages'
import type { Slots } from '../services/pages/slots'

export default defineNitroPlugin(nitro => {
  nitro.hooks.hook('render:response', (response, { event }) => {
    delete response.headers?.['x-powered-by']
    if (typeof response.body !== 'string') return
    const path = event.path.split('?')[0]!
    if (path === '/loft' || path.startsWith('/loft/')) {
      // `npm run dev` puts styles into the page as they are edited.
      const styles = import.meta.dev ? "'unsafe-inline'" : ''
      event.node.res.setHeader(
        'content-security-policy',
        contentPolicy({ scripts: `'self' ${hashesOf(response.body)}`.trim(), styles }),
      )
      return
    }
    const key = event.context.viewKey as string | undefined
    // The page of the site says itself that it was rendered; an empty shell, or any other page, is nobody's view.
    if (key && event.context.renderedView === key && response.statusCode === 200) keepPage(key, response.body)
    const slots = event.context.slots as Slots | undefined
    if (slots?.used) response.body = slots.fill(response.body)
  })
})

/** Inline scripts of the shell, by hash (CSP 3, 2.3.1): whatever else is written into the page does not run. */
function hashesOf(html: string): string {
  const scripts = [...html.matchAll(/<script(?![^>]*\bsrc=)[^>]*>([\s\S]*?)<\/script>/g)].map(found => found[1]!)
  return scripts.map(text => `'sha256-${createHash('sha256').update(text).digest('base64')}'`).join(' ')
}
