/** Addresses as sitemaps.org has them: what whoever asks may find by search and is answered at, and nothing else. */
import { rightBit } from '../../../core/gates/verdict'
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import { thingsOf } from '../../../core/gates/compiled'
import type { Snapshot } from '../live/snapshot'
import { siteAddress } from '../mail/mail'

/** Addresses in one file (sitemaps.org). */
const mostInOne = 50_000

interface Place {
  path: string
  changed: Date | undefined
}

function placesFor({ rules, contents }: Pick<Snapshot, 'rules' | 'contents'>, decider: CompiledDecider): Place[] {
  const { index } = rules
  return thingsOf(index).flatMap(thing => {
    const path = index.pathOf(thing.kind, thing.id)
    if (path === undefined || index.at(path)?.id !== thing.id) return []
    const bits = decider.bits(thing)
    if (!(bits & rightBit.search)) return []
    // Of what does not open only a page that says something of itself is one to find.
    if (!(bits & rightBit.open)) {
      const { otherwise } = decider.decide(thing)
      if (!otherwise || !('teaser' in otherwise)) return []
    }
    return [{ path, changed: contents.get(thing.kind as 'page', thing.id)?.changedAt }]
  })
}

/** The map, or the list of its parts where there are many; `part`, from 1, one of those. Undefined where there is none such. */
export function sitemapFor(
  snapshot: Pick<Snapshot, 'rules' | 'contents'>,
  decider: CompiledDecider,
  part?: number,
): string | undefined {
  const places = placesFor(snapshot, decider)
  const parts = Math.max(1, Math.ceil(places.length / mostInOne))
  if (part === undefined && parts > 1)
    return xml(
      'sitemapindex',
      Array.from({ length: parts }, (_, i) => `<sitemap><loc>${siteAddress()}/sitemap/${i + 1}.xml</loc></sitemap>`),
    )
  if (part !== undefined && (part < 1 || part > parts)) return undefined
  const from = ((part ?? 1) - 1) * mostInOne
  return xml('urlset', places.slice(from, from + mostInOne).map(entry))
}

const xml = (root: string, entries: readonly string[]) =>
  `<?xml version="1.0" encoding="UTF-8"?>\n<${root} xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">\n${entries.join('\n')}\n</${root}>\n`

const escapes: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&apos;' }
const entry = ({ path, changed }: Place) => {
  const address = siteAddress() + encodeURI(path)
  const day = changed ? `<lastmod>${changed.toISOString().slice(0, 10)}</lastmod>` : ''
  return `<url><loc>${address.replaceAll(/[&<>"']/g, char => escapes[char]!)}</loc>${day}</url>`
}
