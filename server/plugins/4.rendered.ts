/** What becomes of a rendered page: kept for its view key where the site's own renderer made it; the console's scripts named by what they hold. */
import { createHash } from 'node:crypto'
import { defineNitroPlugin } from 'nitropack/runtime'
import { contentPolicy } from '../content-policy'
import { keepPage } from '../services/pages/kept-pages'

export default defineNitroPlugin(nitro => {
  // What the console starts from is on its way while its scripts are still being read.
  nitro.hooks.hook('render:html', (html, { event }) => {
    if (isLoft(event.path)) html.head.push('<link rel="preload" href="/api/loft/start" as="fetch" crossorigin>')
  })
  nitro.hooks.hook('render:response', (response, { event }) => {
    delete response.headers?.['x-powered-by']
    if (typeof response.body !== 'string') return
    if (isLoft(event.path)) {
      // `npm run dev` puts styles into the page as they are edited.
      const styles = import.meta.dev ? "'unsafe-inline'" : ''
      event.node.res.setHeader(
        'content-security-policy',
        contentPolicy({ scripts: `'self' ${hashesOf(response.body)}`.trim(), styles }),
      )
      return
    }
    const key = event.context.viewKey
    // The page of the site says itself that it was rendered; an empty shell, or any other page, is nobody's view.
    if (key && event.context.renderedView === key && response.statusCode === event.context.view?.status)
      keepPage(key, response.body)
    const slots = event.context.slots
    if (slots?.used) response.body = slots.fill(response.body)
  })
})

const isLoft = (path: string) => /^\/loft([/?]|$)/.test(path)

/** Inline scripts of the shell, by hash (CSP 3, 2.3.1): whatever else is written into the page does not run. */
function hashesOf(html: string): string {
  const scripts = [...html.matchAll(/<script(?![^>]*\bsrc=)[^>]*>([\s\S]*?)<\/script>/g)].map(found => found[1]!)
  return scripts.map(text => `'sha256-${createHash('sha256').update(text).digest('base64')}'`).join(' ')
}
