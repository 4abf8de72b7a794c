import { describe, expect, it } from 'vitest'
import SiteIdentity from '../../app/loft/door/SiteIdentity.vue'
import { startData, mountScreen, refusal } from './loft-screen'
import type { Answers } from './loft-screen'

const site = { name: 'Wexlow Mill', timezone: 'Europe/Dublin', currency: 'EUR', locale: 'en' }
const screen = (answers: Answers = {}, data = startData()) =>
  mountScreen(SiteIdentity, { answers: { 'GET settings': { settings: {}, site, mailWorks: true }, ...answers }, data })

describe('what the site is', () => {
  it('is changed field by field, and shown as it will be read', async () => {
    const { type, calls, text, answers } = await screen()
    expect(text()).toContain('Written €12.50.')
    await type('Name, at the head', 'Gannet Mill')
    answers['GET settings'] = { settings: {}, site: { ...site, currency: 'GBP' }, mailWorks: true }
    await type('Currency', 'gbp')
    expect(calls.filter(call => call.method === 'PUT').map(({ path, body }) => [path, body])).toEqual([
      ['settings/site', { name: 'Gannet Mill' }],
      ['settings/site', { currency: 'GBP' }],
    ])
    expect(text()).toContain('Written £12.50.')
  })

  it('says what does not fit, and goes back to what it was', async () => {
    const { type, text, find } = await screen({
      'PUT settings/site': Object.assign(refusal('bad-input', 'A time zone such as Europe/Dublin is expected.'), {
        extra: { at: '/timezone' },
      }),
    })
    await type('Time zone', 'Mars/Olympus')
    expect(text()).toContain('A time zone such as Europe/Dublin is expected.')
    expect((find('Time zone') as HTMLInputElement).value).toBe('Europe/Dublin')
  })

  it('is only read by who may only look', async () => {
    await screen(
      {},
      startData({
        me: {
          id: 'p',
          name: 'P',
          masterKey: false,
          roles: ['front-desk'],
          rules: [{ role: 'front-desk', kind: 'settings-site', actions: ['look'], whose: 'anyone' }],
        },
      }),
    )
    expect(document.querySelector('fieldset')!.disabled).toBe(true)
  })
})
