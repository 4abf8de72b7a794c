import { describe, expect, it } from 'vitest'
import OtherwiseEditor from '../../app/loft/kit/gates/OtherwiseEditor.vue'
import type { Otherwise } from '../../core/rulebook/gate'
import { lexiconOf } from '../../core/sentences/lexicon'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import { mountScreen } from './loft-screen'
import { wexlowSite } from '../support/wexlow-site'

const lexicon = lexiconOf(wexlowRulebook, wexlowSite, { firms: [], people: [] })
async function editing(otherwise?: Otherwise, forBlock = false) {
  const screen = await mountScreen(OtherwiseEditor, { props: { otherwise, lexicon, forBlock } })
  const last = () => screen.wrapper.emitted('change')?.at(-1)?.[0]
  return { ...screen, last }
}
const choices = () => [...document.querySelectorAll('select')[0]!.options].map(option => option.value)

describe('what the refused get', () => {
  it('is chosen in a word, and a redirect only where an address is asked for', async () => {
    const page = await editing()
    expect(choices()).toContain('redirect')
    await page.type('Otherwise', 'teaser')
    expect(page.last()).toEqual({ teaser: true })
    await editing(undefined, true)
    expect(choices()).not.toContain('redirect')
  })

  it('leads within the site and to hosts it may lead to: another is told at the field, and kept from the gate', async () => {
    const { type, text, last, press, loft } = await editing({ redirect: { to: '/join' } })
    await type('Where they are led', 'http://elsewhere.example/')
    expect(text()).toContain('“http://elsewhere.example/” is no address to lead to')
    await type('Where they are led', 'https://book.wexlow.example/rooms')
    expect(text()).toContain('The site does not lead to book.wexlow.example so far.')
    expect(last()).toBeUndefined()
    await press('Let it lead to book.wexlow.example')
    expect(last()).toEqual({ redirect: { to: 'https://book.wexlow.example/rooms' } })
    expect(loft.draft.settings).toMatchObject({ leadsTo: ['book.wexlow.example'] })
    await type('Where they are led', '/welcome')
    expect(last()).toEqual({ redirect: { to: '/welcome' } })
    expect(text()).not.toMatch(/no address|so far/)
  })

  it('gives a notice a link and what it is called, and none that leads nowhere', async () => {
    const { type, text, last, wrapper } = await editing({ notice: { text: 'For the Guild.' } })
    await type('Where the notice leads', 'join us')
    expect([text().includes('“join us” is no address'), last()]).toEqual([true, undefined])
    await type('Where the notice leads', '/join')
    await wrapper.setProps({ otherwise: last() as Otherwise })
    await type('What its link is called', 'Join the Guild')
    expect(last()).toEqual({ notice: { text: 'For the Guild.', link: '/join', words: 'Join the Guild' } })
  })

  it('says a notice, with its link kept, and none that is empty', async () => {
    const { type, text, last } = await editing({ notice: { text: 'For the Guild.', link: '/join' } })
    await type('Text of the notice', '  ')
    expect([text().includes('A notice needs a text.'), last()]).toEqual([true, undefined])
    await type('Text of the notice', 'For makers.')
    expect(last()).toEqual({ notice: { text: 'For makers.', link: '/join' } })
  })

  it('parts guests and members, each with an answer of its own, and joins them again', async () => {
    const { find, type, last, wrapper } = await editing({ teaser: true })
    find('guests and members apart').click()
    expect(last()).toEqual({ guest: { teaser: true }, signedIn: { teaser: true } })
    await wrapper.setProps({ otherwise: last() as Otherwise })
    await type('For people signed in', 'none')
    expect(last()).toEqual({ guest: { teaser: true } })
    await wrapper.setProps({ otherwise: last() as Otherwise })
    find('guests and members apart').click()
    expect(last()).toEqual({ teaser: true })
  })

  it('offers another part of the site in place of one', async () => {
    const { type, last, find } = await editing({ swap: { block: 'join-card' } }, true)
    expect((find('The part shown instead') as HTMLSelectElement).value).toBe('join-card')
    await type('The part shown instead', 'hello-all')
    expect(last()).toEqual({ swap: { block: 'hello-all' } })
  })
})
