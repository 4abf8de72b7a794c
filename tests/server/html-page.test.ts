import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parseText } from '../../core/texts/markdown'
import { readHtml } from '../../server/reading/html/html-page'
import type { HtmlPage } from '../../core/outside/outside-page'
import { siteAddress } from '../../server/reading/html/site-address'

const within = { base: 'http://old.example/' }
const read = (html: string, url = 'http://old.example/visit/ferry') => readHtml({ html, url, within }) as HtmlPage
const main = (inside: string) => read(`<title>Mill</title><main><h1>The ferry</h1>${inside}</main>`)

describe('a page of another site', () => {
  it('becomes a title, sections of Markdown and pictures, with links that stay on the site', () => {
    const page = read(`<!doctype html><html lang="en-IE"><head><title>The ferry – Old mill</title>
      <meta name="description" content="How to come by boat."><link rel="canonical" href="/visit/ferry/"></head><body>
      <header><nav><ul><li><a href="/">Home</a><li><a href="/visit">Visit</a><ul><li><a href="ferry">Ferry</a></ul></ul></nav></header>
      <main><h1>The ferry</h1><p>It goes <b>hourly</b>, see <a href="../shop/?utm_source=x#boats">the shop</a>.</p>
      <h2>Fares</h2><table><tr><th>Who<th>Fare<tr><td>Child<td>2</table>
      <figure><img src="/boat.png" alt="A boat"><figcaption>The boat in May</figcaption></figure><p>After it.</p></main>
      <footer><a href="https://elsewhere.example/x">Elsewhere</a> <a href="/imprint">Imprint</a></footer></body></html>`)
    expect(page).toMatchObject({
      address: '/visit/ferry',
      title: 'The ferry',
      summary: 'How to come by boat.',
      language: 'en-IE',
      leftOut: [],
      menus: {
        main: [
          { label: 'Home', to: '/', own: true },
          { label: 'Visit', to: '/visit', under: [{ label: 'Ferry', to: '/visit/ferry' }] },
        ],
        footer: [
          { label: 'Elsewhere', to: 'https://elsewhere.example/x' },
          { label: 'Imprint', to: '/imprint' },
        ],
      },
    })
    expect(page.sections).toEqual([
      { pieces: [{ markdown: 'It goes **hourly**, see [the shop](/shop#boats).' }] },
      {
        title: 'Fares',
        pieces: [
          { markdown: '| Who   | Fare |\n| ----- | ---- |\n| Child | 2    |' },
          { picture: 'http://old.example/boat.png', alt: 'A boat', caption: 'The boat in May' },
          { markdown: 'After it.' },
        ],
      },
    ])
    expect(page.links).toContain('http://old.example/shop/')
  })

  it('leaves out what runs, styles, asks or hides, and names it', () => {
    const page =
      main(`<p onclick="x()">Kept <a href="javascript:x()">words</a>.</p><script>secret()</script><style>p{}</style>
      <form action="/send"><legend>Write to us</legend><input name="mail"><button>Send</button></form>
      <iframe src="https://film.example/1"></iframe><video src="a.mp4"></video><svg><text>drawn</text></svg>
      <p hidden>under the counter</p><p style="display: none">also</p><img src="data:image/png;base64,AAAA" alt="a dot">
      <noscript>turn it on</noscript><template>nothing</template><!-- a note -->`)
    expect(page.sections).toEqual([{ pieces: [{ markdown: 'Kept words.' }] }])
    expect(page.leftOut.map(one => [one.what, one.count, ...one.named])).toEqual([
      ['script', 1],
      ['style', 1],
      ['form', 1, 'Write to us'],
      ['frame', 1, 'https://film.example/1'],
      ['film', 1, 'a.mp4'],
      ['drawing', 1],
      ['link', 1, 'words'],
      ['hidden', 2, 'under the counter', 'also'],
      ['picture', 1, 'a dot'],
    ])
  })

  it('brings no passage, no mark of a part and no HTML, whatever the words look like', () => {
    const words = ':for[members]{who="x"} :::for\n<!-- part: front --> <b>x</b> {a} [a](b) ::x # 1. - *a*'
    const page = main(`<pre>${'x'}</pre><p>${words.replaceAll('<', '&lt;')}</p>`)
    const { markdown } = page.sections[0]!.pieces[0] as { markdown: string }
    const kinds = new Set<string>()
    const walk = (node: { type: string; children?: unknown[] }) => {
      kinds.add(node.type)
      node.children?.forEach(one => walk(one as never))
    }
    walk(parseText(markdown))
    expect([...kinds].sort()).toEqual(['code', 'paragraph', 'root', 'text'])
  })

  it('keeps the words of any paragraph', () => {
    const said = (node: { value?: string; children?: unknown[] }): string =>
      node.value ?? (node.children ?? []).map(one => said(one as never)).join('')
    fc.assert(
      fc.property(fc.stringMatching(/^[a-zé7:[\]{}*_#<>&`~|.\-+()!\\" ]{1,40}$/), words => {
        const plain = words.replaceAll(/\s+/g, ' ').trim()
        const escaped = words.replaceAll('&', '&amp;').replaceAll('<', '&lt;')
        const { sections } = main(`<p>${escaped}</p>`)
        const markdown = sections[0] ? (sections[0].pieces[0] as { markdown: string }).markdown : ''
        expect(said(parseText(markdown)).replaceAll(/\s+/g, ' ').trim()).toBe(plain)
      }),
      { examples: [['*:a+'], ['_:for[x]{who="y"}']] },
    )
  })

  it('says so where it is nested too deep', () => {
    expect(readHtml({ html: '<div>'.repeat(200_000), url: 'http://old.example/', within })).toHaveProperty('unread')
  })
})

describe('an address here', () => {
  const at = (url: string, files = false, base = within.base) => siteAddress(new URL(url), { base, files })
  it('is the one it had, in one spelling', () => {
    expect(at('http://old.example')).toBe('/')
    expect(at('http://old.example/index.html')).toBe('/')
    expect(at('http://old.example/Visit/index.php')).toBe('/Visit')
    expect(at('http://old.example/visit/about.html')).toBe('/visit/about.html')
    expect(at('http://old.example/visit/about.html', true)).toBe('/visit/about')
    expect(at('http://old.example/?p=12&utm_source=x')).toBe('/p-12')
    expect(at('http://old.example/a%20page/caf%C3%A9')).toBe('/a-page/café')
    expect(at('http://old.example/a/%2e%2e/%2F')).toBe('/')
    expect(at('http://old.example/account/profile')).toBe('/old/account/profile')
    expect(at('http://old.example/mill/visit', false, 'http://old.example/mill/')).toBe('/visit')
    expect(at('http://old.example/millstone', false, 'http://old.example/mill/')).toBeUndefined()
    expect(at('https://old.example/')).toBeUndefined()
    expect(at(`http://old.example/${'x'.repeat(400)}`)).toBeUndefined()
  })
})
