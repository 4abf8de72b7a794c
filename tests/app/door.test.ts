import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import type { LoftAnswer } from '../../app/loft/core/loft-api'
import MailSeen from '../../app/loft/door/seen/MailSeen.vue'
import { htmlWith, paragraphsOf } from '../../app/loft/door/seen/mail-paragraphs'
import Ways from '../../app/loft/door/ways/Ways.vue'
import type { SiteSettings } from '../../server/services/settings/settings'
import { defaultGroups, defaultSettings } from '../support/world'
import { mountScreen, refusal, startData } from './loft-screen'
import type { Answers, Call } from './loft-screen'

const signUp: SiteSettings['sign-up'] = {
  ...defaultSettings['sign-up'],
  mode: 'open',
  facts: [
    { fact: 'hall', required: true },
    { fact: 'spindles', required: false },
  ],
  startRoles: ['islander'],
}
const settings = (changes: Partial<typeof signUp> = {}): LoftAnswer<'GET settings'> => ({
  settings: { ...defaultGroups, 'sign-up': { ...signUp, ...changes } },
  site: undefined,
  mailWorks: false,
})
const counts: LoftAnswer<'GET door'> = {
  days: 30,
  came: 31,
  stopped: [
    { at: 'password', count: 7 },
    { at: 'fact-hall', count: 1 },
  ],
  filled: 24,
  confirmed: 22,
  lookedAt: 3,
  letIn: 22,
  started: 20,
  unconfirmed: 2,
  waiting: 1,
  signedIn: 95,
  refused: { count: 113, most: [{ kind: 'page', id: 'gansey', count: 57 }] },
}
const form = {
  mode: 'open' as const,
  facts: [
    { id: 'hall', name: 'Guild hall', type: 'text', choices: [], required: true },
    { id: 'spindles', name: 'Spindles owned', type: 'number', choices: [], required: false },
  ],
}
const put = (calls: Call[]) => calls.filter(call => call.method !== 'GET').map(({ path, body }) => [path, body])
const door = (answers: Answers = {}, data = startData({ signUp: form })) =>
  mountScreen(Ways, { answers: { 'GET settings': settings(), 'GET door': counts, ...answers }, data })
const onSheet = () => document.querySelector('[data-sheet]')!.shadowRoot!
const laid = async () => {
  for (let i = 0; i < 6; i++) await flushPromises()
}

describe('the ways in', () => {
  it('say how many passed each station, and who waits', async () => {
    const { text } = await door()
    for (const said of [
      '31came',
      '24filled in',
      'Tries that were stopped: 7 at the password, 1 at Guild hall',
      '2 wait',
      '1 waits to be looked at',
      '95 times',
      '113 refusals in 30 days, 57 at The gansey course',
    ])
      expect(text().replaceAll(/\s+/g, ' ')).toContain(said)
  })

  it('are changed one word at a time, and the rest of it goes along unchanged', async () => {
    const { press, type, calls, text } = await door()
    await type('The door is', 'invitation')
    await type('A role they start with', 'stockist')
    await press('They start with Islander no more')
    await type('Whether Spindles owned is asked for', 'needed')
    await type('Whether Guild hall is asked for', 'no')
    await press('Spindles owned')
    await press('Ask Spindles owned earlier')
    const [hall, spindles] = signUp.facts
    expect(put(calls)).toEqual([
      ['settings/sign-up', { ...signUp, mode: 'invitation' }],
      ['settings/sign-up', { ...signUp, startRoles: ['islander', 'stockist'] }],
      ['settings/sign-up', { ...signUp, startRoles: [] }],
      ['settings/sign-up', { ...signUp, facts: [hall, { ...spindles, required: true }] }],
      ['settings/sign-up', { ...signUp, facts: [spindles] }],
      ['settings/sign-up', { ...signUp, facts: [spindles, hall] }],
    ])
    expect(text()).toContain('Kept, and in force.')
  })

  it('say why confirming by mail cannot be switched on, and show what holds', async () => {
    const { type, text, find } = await door({
      'PUT settings/sign-up': refusal('bad-input', 'Check that mail works first.'),
    })
    expect(text()).toContain('It is not known whether mail works')
    await type('Whether the address is confirmed', 'yes')
    expect(text()).toContain('Check that mail works first.')
    expect((find('Whether the address is confirmed') as HTMLSelectElement).value).toBe('no')
  })

  it('let those be looked at of whom a sentence is true, and tell how many and that nobody can be', async () => {
    const lookAt = { fact: { name: 'spindles', atLeast: 10 } }
    const { type, text, calls } = await door({ 'GET settings': settings({ lookAt }) })
    expect(text().replaceAll(/\s+/g, ' ')).toContain('Of the 24 of these 30 days 3 are such')
    await type('Whether somebody looks at them', 'each')
    expect(put(calls)).toEqual([['settings/sign-up', { ...signUp, approveByHand: true, lookAt: null }]])
  })

  it('say so where nobody new can be what a sentence says', async () => {
    const { text } = await door({ 'GET settings': settings({ lookAt: { signedIn: false } }) })
    await vi.waitFor(() => expect(text()).toContain('Nobody new can be that before they are let in'))
  })

  it('are only read by who may only look', async () => {
    const { find } = await door(
      {},
      startData({
        me: {
          id: 'p',
          name: 'P',
          masterKey: false,
          roles: ['front-desk'],
          rules: [{ role: 'front-desk', kind: 'settings-sign-up', actions: ['look'], whose: 'anyone' }],
        },
      }),
    )
    expect((find('The door is') as HTMLSelectElement).disabled).toBe(true)
    for (const name of ['Something more to ask for', 'A role they start with', 'Where landing 1 leads'])
      expect(document.querySelector(`[aria-label="${name}"]`)).toBeNull()
  })

  it('go from station to station by keys, and the form shows what is asked there', async () => {
    const { key, find } = await door()
    await vi.waitFor(() => expect(onSheet().querySelector('form')?.textContent).toContain('Guild hall'))
    await key(find('31 came: what they see here'), 'ArrowDown')
    await key(document.activeElement as HTMLElement, 'ArrowDown')
    expect(document.querySelector('[aria-current="step"]')?.textContent).toContain('The address is')
  })

  it('have their words said otherwise where they stand, and what is asked dragged into another order', async () => {
    const { calls, type, press } = await door()
    await laid()
    const heading = onSheet().querySelector<HTMLElement>('h1')!
    expect(heading.dataset.word).toBe('enter.sign-up')
    heading.dispatchEvent(new MouseEvent('click', { bubbles: true, composed: true, cancelable: true }))
    await flushPromises()
    await type('Sign up, we say', 'Become one of us')
    await press('Say it')
    expect(put(calls)).toEqual([['site-words/en-IE', { words: { 'enter.sign-up': 'Become one of us' } }]])
    const labels = [...onSheet().querySelectorAll<HTMLElement>('label[data-fact]')]
    const drag = (type: string, at: HTMLElement) =>
      at.dispatchEvent(new Event(type, { bubbles: true, composed: true, cancelable: true }))
    drag('dragstart', labels[1]!)
    drag('drop', labels[0]!)
    await flushPromises()
    expect(put(calls).at(-1)).toEqual(['settings/sign-up', { ...signUp, facts: signUp.facts.toReversed() }])
  })
})

describe('a mail at a station', () => {
  const plain = 'Hello {name},\n\nconfirm it & come.\n\nConfirm:\n{link}\n\n{site}'
  const html = '<p>Hello {name},</p>\n<p>confirm it &amp; come.</p>\n<p><a href="{link}">Confirm</a></p>\n<p>{site}</p>'

  it('says a paragraph alike in both of its forms, or tells that it cannot', () => {
    const [hello, confirm, link] = paragraphsOf(plain) as [string, string, string]
    expect(htmlWith(html, confirm, 'Come <in>.')).toContain('<p>Come &lt;in&gt;.</p>')
    expect(htmlWith(html, link, 'Yes:\n{link}')).toContain('<p><a href="{link}">Yes</a></p>')
    expect(htmlWith(html, hello, '')).not.toContain('Hello')
    expect(htmlWith(html, hello, '$& costs')).toContain('<p>$&amp; costs</p>')
    expect(htmlWith('<h1>Hello</h1>', hello, 'Hi')).toBeNull()
  })

  it('is written where it stands', async () => {
    const text = {
      key: 'confirm' as const,
      about: 'Asks.',
      values: ['name', 'link'],
      token: true,
      changed: false,
      subject: 'Yours?',
      plain,
      html,
      original: { subject: 'Yours?', plain, html },
    }
    const { type, calls } = await mountScreen(MailSeen, {
      props: { text: 'confirm' },
      answers: { 'GET mail/texts': [text] },
    })
    await type('Words 2 of the mail', 'confirm it.')
    expect(put(calls)).toEqual([
      [
        'mail/texts/confirm',
        {
          subject: 'Yours?',
          plain: plain.replace('it & come', 'it'),
          html: html.replace('it &amp; come', 'it'),
        },
      ],
    ])
  })
})
