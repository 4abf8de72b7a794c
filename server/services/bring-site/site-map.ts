/**
 * The pages of a site, as its site map names them (sitemaps.org 0.9, also through an index of site maps), and what its
 * robots.txt asks of whoever reads it (RFC 9309).
 */
import robotsParser from 'robots-parser'
import { isWithin, onePage } from '../../reading/html/site-address'
import { readBeside, TookTooLong } from '../../reading/reading'
import { fetchOutside, textOfAnswer } from './outside'

/** Bytes of robots.txt and of one site map; site maps read; pages named. */
const most = { robots: 512_000, map: 10_000_000, maps: 20 }
/** What it is asked to wait between two pages is heeded up to so much; milliseconds. */
const mostDelayMs = 5000

export interface Robots {
  allows(url: string): boolean
  delayMs: number
  maps: string[]
}

/** A site whose robots.txt cannot be had for a fault of its own is not read (RFC 9309, 2.3.1.4); one without is. */
export async function readRobots(base: string, hosts: readonly string[]): Promise<Robots | { failed: string }> {
  const url = new URL('/robots.txt', base)
  const answer = await fetchOutside(url, { hosts, most: most.robots, accept: 'text/plain' })
  if ('failed' in answer) {
    const isAbsent = answer.status !== undefined && answer.status >= 400 && answer.status < 500
    return isAbsent ? { allows: () => true, delayMs: 0, maps: [] } : answer
  }
  const robots = robotsParser(url.href, textOfAnswer(answer.bytes, answer.type))
  return {
    allows: one => robots.isAllowed(one, 'Bravik') !== false,
    delayMs: Math.min(mostDelayMs, (robots.getCrawlDelay('Bravik') ?? 0) * 1000),
    maps: robots.getSitemaps(),
  }
}

/** Pages of the site its site maps name, at most `mostPages`; none where it has none. */
export async function pagesOfMaps(
  base: string,
  robots: Robots,
  { hosts, mostPages }: { hosts: readonly string[]; mostPages: number },
): Promise<string[]> {
  const pages = new Set<string>()
  const maps = [...robots.maps, new URL('sitemap.xml', base).href, new URL('/sitemap.xml', base).href]
  const seen = new Set<string>()
  for (let i = 0; i < maps.length && seen.size < most.maps && pages.size < mostPages; i++) {
    const url = URL.canParse(maps[i]!) ? new URL(maps[i]!) : undefined
    // A map of another host says nothing of this one.
    if (!url || seen.has(url.href) || url.origin !== new URL(base).origin) continue
    seen.add(url.href)
    const answer = await fetchOutside(url, { hosts, most: most.map, accept: 'application/xml' })
    if ('failed' in answer || /html/.test(answer.type)) continue
    const found = await readBeside('siteMap', textOfAnswer(answer.bytes, answer.type)).catch((error: unknown) => {
      if (error instanceof TookTooLong) return { pages: [], maps: [] }
      throw error
    })
    maps.push(...found.maps)
    for (const page of found.pages) {
      if (pages.size >= mostPages) break
      if (URL.canParse(page) && isWithin(new URL(page), { base })) pages.add(onePage(page).href)
    }
  }
  return [...pages]
}
