import { describe, expect, it } from 'vitest'
import type { PageView } from '../view/view'
import { metadataOf } from './page-metadata'

const page = {
  status: 200,
  siteName: 'Wexlow Mill',
  lang: 'en-IE',
  title: 'Wool',
  summary: '',
  here: '/wool',
  blocks: [],
  about: { kind: 'page', free: true },
} as unknown as PageView
const of = (more: object = {}) => metadataOf({ ...page, ...more } as PageView, 'https://mill.example')!
const linked = (more: object = {}) => JSON.parse(of(more).linked)

describe('what machines are told of a page', () => {
  it('is what people are shown', () => {
    expect(of()).toMatchObject({
      canonical: 'https://mill.example/wool',
      openGraph: {
        'og:type': 'website',
        'og:title': 'Wool',
        'og:url': 'https://mill.example/wool',
        'og:site_name': 'Wexlow Mill',
      },
    })
    expect(linked()).toEqual({
      '@context': 'https://schema.org',
      '@type': 'WebPage',
      name: 'Wool',
      url: 'https://mill.example/wool',
      inLanguage: 'en-IE',
      isPartOf: { '@type': 'WebSite', name: 'Wexlow Mill', url: 'https://mill.example/' },
      isAccessibleForFree: true,
    })
    expect(of({ here: '/färben' }).canonical).toBe('https://mill.example/f%C3%A4rben')
    expect(of().openGraph).not.toHaveProperty('og:description')
  })

  it('of a post is an article, by whom and of when', () => {
    const post = { about: { kind: 'post', free: false, day: '2026-03-02', author: 'Guda' }, summary: 'Blue' }
    expect(of(post).openGraph).toMatchObject({
      'og:type': 'article',
      'og:description': 'Blue',
      'article:published_time': '2026-03-02',
    })
    expect(linked(post)).toMatchObject({
      '@type': 'Article',
      headline: 'Wool',
      description: 'Blue',
      isAccessibleForFree: false,
      datePublished: '2026-03-02',
      author: { '@type': 'Person', name: 'Guda' },
    })
    expect(linked(post)).not.toHaveProperty('name')
    expect(of({ about: { kind: 'post', free: true } }).openGraph).not.toHaveProperty('article:published_time')
    expect(of({ about: { kind: 'page', free: true, day: '2026-03-02' } }).openGraph).not.toHaveProperty(
      'article:published_time',
    )
    expect(linked({ about: { kind: 'product', free: true } })['@type']).toBe('Product')
    expect(linked({ about: { kind: 'category', free: true } })['@type']).toBe('CollectionPage')
  })

  it('has a picture where one is stored', () => {
    expect(of({ picture: { src: '/picture/x', width: 1, height: 1 } }).openGraph['og:image']).toBe(
      'https://mill.example/picture/x',
    )
    expect(of({ picture: 'twill' }).openGraph).not.toHaveProperty('og:image')
  })

  it('says that parts are for some where one is, however deep it stands', () => {
    const hasPart = { '@type': 'WebPageElement', isAccessibleForFree: false, cssSelector: '.for-some' }
    for (const kind of ['teaser', 'notice', 'dimmed'])
      expect(
        linked({ blocks: [{ kind: 'text' }, { kind: 'group', blocks: [{ kind: 'text' }, { kind }] }] }).hasPart,
      ).toEqual(hasPart)
    expect(linked({ blocks: [{ kind: 'text' }, { kind: 'group', blocks: [{ kind: 'text' }] }] })).not.toHaveProperty(
      'hasPart',
    )
  })

  it('is nothing of a page that is not there, is refused, or is walked', () => {
    for (const more of [{ about: undefined }, { status: 401 }, { walked: { tier: 'guest', draft: true } }])
      expect(of(more)).toBeUndefined()
  })

  it('ends no script', () => {
    expect(of({ title: '</script>' }).linked).not.toContain('<')
    expect(linked({ title: '</script>' }).name).toBe('</script>')
  })
})
