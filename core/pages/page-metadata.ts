/**
 * What machines are told of a page, made from what people are shown of it and from nothing else: its own address, Open
 * Graph (ogp.me), and schema.org as JSON-LD, which says of what is not for everybody that it is not.
 */
import type { PageView, ViewBlock } from '../view/view'

/** What stands in place of what somebody does not get is marked so on the page. */
const forSome = 'for-some'

export interface PageMetadata {
  canonical: string
  openGraph: Readonly<Record<string, string>>
  /** JSON-LD, safe within HTML. */ linked: string
}

const isKept = ({ kind }: ViewBlock): boolean => kind === 'teaser' || kind === 'notice' || kind === 'dimmed'
const holdsKept = (block: ViewBlock): boolean =>
  isKept(block) || ('blocks' in block && (block.blocks as ViewBlock[]).some(holdsKept))

const articles: ReadonlySet<string> = new Set(['post'])
const types: Readonly<Record<string, string>> = { post: 'Article', product: 'Product', category: 'CollectionPage' }

/** Nothing of a page that is not there for whoever asks, nor of one that is walked. `address`: of the site, without a slash at its end. */
export function metadataOf(view: PageView, address: string): PageMetadata | undefined {
  const { about, title, summary, siteName, lang } = view
  if (!about || view.status !== 200 || view.walked) return undefined
  const canonical = address + encodeURI(view.here)
  const article = articles.has(about.kind)
  const picture = view.picture && typeof view.picture !== 'string' ? address + view.picture.src : undefined
  const parts = view.blocks.some(holdsKept)
  const linked = {
    '@context': 'https://schema.org',
    '@type': types[about.kind] ?? 'WebPage',
    [article ? 'headline' : 'name']: title,
    ...(summary ? { description: summary } : {}),
    url: canonical,
    inLanguage: lang,
    isPartOf: { '@type': 'WebSite', name: siteName, url: `${address}/` },
    isAccessibleForFree: about.free,
    ...(about.day ? { datePublished: about.day } : {}),
    ...(about.author ? { author: { '@type': 'Person', name: about.author } } : {}),
    ...(parts
      ? { hasPart: { '@type': 'WebPageElement', isAccessibleForFree: false, cssSelector: `.${forSome}` } }
      : {}),
  }
  return {
    canonical,
    openGraph: {
      'og:type': article ? 'article' : 'website',
      'og:title': title,
      'og:url': canonical,
      'og:site_name': siteName,
      ...(summary ? { 'og:description': summary } : {}),
      ...(picture ? { 'og:image': picture } : {}),
      ...(article && about.day ? { 'article:published_time': about.day } : {}),
    },
    linked: JSON.stringify(linked).replaceAll('<', '\\u003c'),
  }
}
