import { renderToString } from 'vue/server-renderer'
import type { Component } from 'vue'
import { createSSRApp, h } from 'vue'
import { beforeEach, describe, expect, it } from 'vitest'
import SiteBlock from '../../app/site/blocks/Block.vue'
import SiteField from '../../app/site/Field.vue'
import SiteForm from '../../app/site/Form.vue'
import SitePrice from '../../app/site/Price.vue'
import SiteMenu from '../../app/site/Menu.vue'
import { siteWords } from '../../core/site-words/site-words'
import type { ViewBlock, ViewItem } from '../../core/view/view'
import type { Panel } from '../../core/view/panel'
import { requestEvent } from './nuxt-names'

const page = {
  title: 'Steeks',
  summary: 'Cut without fear.',
  signIn: '/sign-in?back=%2Fsteeks',
  here: '/steeks',
  words: siteWords(undefined, 'en-GB', () => false),
  walked: undefined as { tier: string; draft: boolean } | undefined,
}
beforeEach(() => {
  requestEvent.context.view = page
  page.walked = undefined
})

/** As the site renders it: on the server, to text. Comments of the renderer are left out. */
async function html(component: Component, props: object, slot?: string): Promise<string> {
  const app = createSSRApp({ render: () => h(component, props, slot ? { default: () => slot } : undefined) })
  return (await renderToString(app)).replaceAll(/<!--.*?-->/g, '')
}
const block = (one: ViewBlock) => html(SiteBlock, { block: one })
const words = (markup: string) =>
  markup
    .replaceAll(/<[^>]+>/g, ' ')
    .replaceAll(/\s+/g, ' ')
    .trim()
const panel = (one: Panel, more: object = {}) => block({ kind: 'panel', title: 'Yours', panel: one, ...more })

describe('a block of the site', () => {
  it('shows texts as they were rendered, and everything else escaped', async () => {
    expect(await block({ kind: 'text', title: 'A <b>', html: '<p><em>wool</em></p>' })).toContain(
      '<h2>A &lt;b&gt;</h2><div><p><em>wool</em></p></div>',
    )
    expect(await block({ kind: 'call', title: 'Join', text: '<script>', label: 'Go', href: '/join' })).toContain(
      '&lt;script&gt;',
    )
    expect(await block({ kind: 'notice', text: '<img src=x>', guest: true })).toContain('&lt;img src=x&gt;')
  })

  it('tells nothing of what it stands for when dimmed: lines, and a name for who cannot see them', async () => {
    const dimmed = await block({ kind: 'dimmed', lines: 3 })
    expect(dimmed.match(/<span/g)).toHaveLength(3)
    expect(words(dimmed)).toBe('')
    expect(dimmed).toContain('aria-label="A part for members"')
  })

  it('lets in whoever is not, back to where they were; a walk has no form that would act for the keeper', async () => {
    const form = await block({ kind: 'signIn', title: 'Come in', text: 'One of us?' })
    expect(form).toContain('action="/sign-in"')
    expect(form).toContain('name="back" value="/steeks"')
    page.walked = { tier: 'Guest', draft: true }
    expect(await block({ kind: 'signIn', title: '' })).not.toContain('<form')
  })

  it('says a teaser once, where the page has said its title already', async () => {
    expect(words(await block({ kind: 'teaser', title: 'Steeks', summary: 'Cut without fear.', guest: true }))).toBe(
      'The rest is for members. Sign in if you are one of us.',
    )
    expect(words(await block({ kind: 'teaser', title: 'Chart', summary: 'Row by row.', guest: true }))).toBe(
      'Chart Row by row. The rest is for members. Sign in if you are one of us.',
    )
    expect(await block({ kind: 'teaser', title: '', summary: '', guest: true })).toContain(
      'href="/sign-in?back=%2Fsteeks"',
    )
    // Whoever is signed in already is not told to.
    expect(words(await block({ kind: 'teaser', title: '', summary: '', guest: false }))).toBe(
      'The rest is for members.',
    )
    expect(words(await block({ kind: 'notice', text: 'Not yet', guest: false }))).toBe('Not yet')
  })

  it('holds other blocks in order', async () => {
    expect(
      words(
        await block({
          kind: 'group',
          title: 'Box',
          blocks: [
            { kind: 'notice', text: 'First', guest: true },
            { kind: 'group', title: '', blocks: [{ kind: 'call', title: 'Second', label: 'Go', href: '/' }] },
          ],
        }),
      ),
    ).toBe('Box First Sign in Second Go')
  })

  it('says to whoever hears it what a price was, with no name on an element that takes none', async () => {
    const price = await html(SitePrice, { price: { now: '€6.90', was: '€7.90' } })
    expect(price).toContain('<s><span class="unseen">usually €7.90</span><span aria-hidden="true">€7.90</span></s>')
  })

  it('names a woven picture for who cannot see it', async () => {
    expect(await block({ kind: 'picture', pattern: 'gansey', palette: 'woad', alt: 'Knit and purl' })).toMatch(
      /role="img"[^>]*aria-label="Knit and purl"|aria-label="Knit and purl"[^>]*role="img"/,
    )
    expect(await block({ kind: 'picture', src: '/p.png', alt: 'A wheel' })).toContain(
      '<img src="/p.png" alt="A wheel" loading="lazy">',
    )
  })

  it('lets people sign out, but never the keeper who walks as them', async () => {
    const account: ViewBlock = { kind: 'account', person: { name: 'Guda Moor', roles: 'Islander', loft: false } }
    expect(await block(account)).toContain('action="/sign-out"')
    page.walked = { tier: 'Guild', draft: false }
    expect(await block(account)).not.toContain('<form')
    expect(words(await block({ kind: 'account', person: null }))).toBe('You are not signed in. Sign in')
  })
})

describe("a panel of a member's home", () => {
  const held = {
    id: 7,
    name: 'Guild',
    until: '5 January 2027',
    paidUntil: '5 January 2027',
    bought: true,
    renews: true,
    renewAs: null,
  }
  const levels = (more: Partial<typeof held> = {}, fromFirm: string[] = []): Panel => ({
    shows: 'levels',
    held: [{ ...held, ...more }],
    fromFirm,
    also: [],
    change: '/account/buy',
  })

  it('says of each level how it goes on', async () => {
    expect(words(await panel(levels()))).toContain('Guild renews on 5 January 2027 Do not renew Guild')
    expect(words(await panel(levels({ renews: false })))).toContain(
      'Guild ends on 5 January 2027 Renew Guild by itself',
    )
    expect(words(await panel({ ...levels(), held: [{ ...held, renewAs: 'Maker' as never }] } as Panel))).toContain(
      'until 5 January 2027, then Maker',
    )
    // A name is words, whatever it looks like.
    const script = await panel({ ...levels(), also: ['<script>alert(1)</script>'] } as Panel)
    expect(script).toContain('&lt;script&gt;alert(1)&lt;/script&gt;')
    expect(script).not.toContain('<script>alert')
    expect(words(await panel(levels({ bought: false })))).toContain('Guild until 5 January 2027')
    expect(
      words(await panel({ shows: 'levels', held: [], fromFirm: ['Maker'], also: [], change: '/account/buy' })),
    ).toContain('Maker through your firm')
    expect(words(await panel({ shows: 'levels', held: [], fromFirm: [], also: [], change: '/account/buy' }))).toContain(
      'You hold no level yet.',
    )
  })

  it('offers nothing to press on a walk', async () => {
    page.walked = { tier: 'Guild', draft: false }
    for (const one of [
      levels(),
      {
        shows: 'firm',
        name: 'Skerry',
        owner: true,
        me: 'a',
        people: [
          { id: 'a', name: 'Ada', owner: true },
          { id: 'b', name: 'Bo', owner: false },
        ],
      },
    ] as Panel[])
      expect(await panel(one), one.shows).not.toContain('<form')
  })

  it('tells what one level up adds, and how much more', async () => {
    const up = words(
      await panel({
        shows: 'up',
        level: 'Maker',
        price: '€6.00 a month',
        adds: ['Mending a heel'],
        more: 3,
        href: '/account/buy?level=maker',
      }),
    )
    expect(up).toContain('Maker , €6.00 a month, would also open: Mending a heel')
    expect(up).toContain('3 more')
  })

  it('lists payments and applications in words', async () => {
    expect(
      words(
        await panel({
          shows: 'payments',
          payments: [{ at: '4 March 2026', level: 'Maker', amount: '€6.00', state: 'refunded' }],
        }),
      ),
    ).toContain('given back')
    expect(
      words(
        await panel({
          shows: 'applications',
          sent: [{ name: 'Test knitter', state: 'declined', words: 'Next year.' }],
          open: [{ title: 'Classroom', href: '/apply/role/classroom' }],
        }),
      ),
    ).toMatch(/Test knitter.*not this time.*Next year\..*Classroom/)
  })
})

describe('a menu of the site', () => {
  const item = (label: string, more: Partial<ViewItem> = {}): ViewItem => ({
    label,
    locked: false,
    here: false,
    items: [],
    ...more,
  })

  it('marks where one is, and what is for members leads nowhere', async () => {
    const menu = await html(SiteMenu, {
      items: [item('Techniques', { href: '/techniques', here: true, items: [item('Gansey', { locked: true })] })],
    })
    expect(menu).toContain('<a href="/techniques" aria-current="page">Techniques</a>')
    expect(menu).toContain('<span class="locked">Gansey<small> members</small></span>')
    expect(menu.match(/<a /g)).toHaveLength(1)
  })
})

describe('a form of the site', () => {
  it('works without a script, and says what is wrong at its head and at its fields', async () => {
    const form = await html(
      SiteForm,
      { problem: 'That did not work.', action: '/sign-up', hidden: { token: 'a"b' } },
      'fields',
    )
    expect(form).toContain('<form method="post" action="/sign-up"')
    expect(form).toContain('role="alert"')
    expect(form).toContain('name="token" value="a&quot;b"')
    const field = await html(SiteField, {
      name: 'email',
      label: 'Address',
      type: 'email',
      value: 'ada@',
      problem: 'This is no address.',
      required: true,
    })
    expect(field).toContain('aria-invalid="true" aria-describedby="email-problem"')
    expect(field).toContain('<em id="email-problem" class="problem">This is no address.</em>')
  })

  it('never sends a password back, and keeps everything else that was typed', async () => {
    expect(
      await html(SiteField, { name: 'password', label: 'Password', type: 'password', value: 'hush hush hush' }),
    ).not.toContain('hush')
    expect(await html(SiteField, { name: 'why', label: 'Why', type: 'long', value: 'Because <wool>' })).toContain(
      'Because &lt;wool&gt;</textarea>',
    )
    expect(
      await html(SiteField, {
        name: 'hall',
        label: 'Hall',
        type: 'choice',
        choices: ['north', 'south'],
        value: 'south',
      }),
    ).toContain('<option selected>south</option>')
    expect(await html(SiteField, { name: 'news', label: 'News', type: 'flag', value: 'on' })).toContain('checked')
  })
})
