/** Which pages of a site a made-up stranger walks, and how their addresses are told apart from everybody's. */
import { isForPrograms } from './own-addresses'

/** Forms on the way in and out; whatever else a form does is done for real, and is not for somebody made up. */
const posts: ReadonlySet<string> = new Set(['/sign-up', '/confirm', '/sign-in', '/sign-out', '/forgot', '/reset'])
export const strangerPost = (path: string): boolean => posts.has(path)

/** Pages of the site, and what stands in them: no console, no program's address. */
export const strangersPath = (path: string): boolean =>
  !/^\/(loft|walk|_nuxt)(\/|$)/.test(path) && (!isForPrograms(path) || path.startsWith('/picture/'))

/** A page whose addresses all lead below `base`; what every page is built of stays where it is. */
export function withBase(html: string, base: string): string {
  const led = (address: string) =>
    address.startsWith('/') && !address.startsWith('//') && !address.startsWith('/_nuxt/') ? base + address : address
  return html
    .replaceAll(/(\s(?:href|src|action|poster)=")([^"]*)"/g, (_, start: string, to: string) => `${start}${led(to)}"`)
    .replaceAll(
      /(\ssrcset=")([^"]*)"/g,
      (_, start: string, list: string) => `${start}${list.split(', ').map(led).join(', ')}"`,
    )
}
