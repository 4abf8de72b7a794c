import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import Mail from '../../app/loft/door/Mail.vue'
import type { LoftAnswer } from '../../app/loft/core/loft-api'
import { startData, mountScreen, refusal } from './loft-screen'
import type { Answers, Call } from './loft-screen'
import { defaultGroups } from '../support/world'

afterEach(() => {
  vi.useRealTimers()
})
const settings: LoftAnswer<'GET settings'> = {
  settings: defaultGroups,
  site: undefined,
  mailWorks: false,
}
const put = (calls: Call[]) => calls.filter(call => call.method !== 'GET').map(({ path, body }) => [path, body])
const submit = async (name: string) => {
  document
    .querySelector(`[aria-label="${name}"]`)!
    .closest('form')!
    .dispatchEvent(new Event('submit', { cancelable: true }))
  await flushPromises()
}

describe('mail', () => {
  const kept = {
    id: 1,
    sender: 'mill@wexlow.example',
    recipient: 'nele@wexlow.example',
    subject: 'Confirm your address',
    plain: 'Go to http://127.0.0.1:4321/confirm?token=abc',
    html: '',
    receivedAt: '2026-11-20T09:30:00Z',
  }
  const outbox: LoftAnswer<'GET mail/outbox'> = {
    standIn: true,
    kept: [kept],
    waiting: [
      {
        id: 2,
        text: 'reset',
        createdAt: '2026-11-20T09:30:00Z',
        recipient: 'bo@wexlow.example',
        state: 'failed',
        tries: 5,
        problem: 'connection refused',
        nextTryAt: '2026-11-25T10:00:00Z',
        again: true,
      },
      {
        id: 3,
        text: 'confirm',
        createdAt: '2026-11-20T09:30:00Z',
        recipient: 'ida@wexlow.example',
        state: 'queued',
        tries: 2,
        problem: 'ESOCKET',
        nextTryAt: '2026-11-25T10:00:00Z',
        again: true,
      },
      {
        id: 4,
        text: 'reset',
        createdAt: '2026-11-20T09:30:00Z',
        recipient: 'late@wexlow.example',
        state: 'failed',
        tries: 1,
        problem: 'expired',
        nextTryAt: '2026-11-25T10:00:00Z',
        again: false,
      },
    ],
  }
  const original = { subject: 'Confirm your address', plain: 'Dear {name}', html: '<p>Dear {name}</p>' }
  const texts: LoftAnswer<'GET mail/texts'> = [
    {
      key: 'confirm',
      about: 'Sent on sign-up.',
      values: ['name', 'link'],
      token: false,
      changed: true,
      ...original,
      subject: 'Is this you?',
      original,
    },
  ]
  const mail = (answers: Answers = {}) =>
    mountScreen(Mail, {
      answers: { 'GET settings': settings, 'GET mail/outbox': outbox, 'GET mail/texts': texts, ...answers },
    })

  it('shows what went out, with its links, and what did not, and why', async () => {
    const { press, text, find } = await mail()
    expect(text()).toContain('reset to bo@wexlow.examplegiven up after 5 tries: connection refused')
    expect(text()).toContain('waits after 2 tries: ESOCKET; the next at 25 Nov 2026, 10:00')
    expect(text()).toContain('not sent in time: of no use any more')
    await press('Confirm your addressto nele@wexlow.example')
    expect((find('http://127.0.0.1:4321/confirm?token=abc') as HTMLAnchorElement).href).toBe(
      'http://127.0.0.1:4321/confirm?token=abc',
    )
  })

  it('that waits or was given up is sent again, where it still says something', async () => {
    const { press, calls, text, find } = await mail()
    expect(() => find('Send reset to late@wexlow.example again')).toThrow()
    await press('Send reset to bo@wexlow.example again')
    expect(put(calls)).toEqual([['mail/outbox/2/again', undefined]])
    expect(text()).toContain('On its way again.')
  })

  it('that lets its reader in is worded by the master key only', async () => {
    const rules = [
      {
        role: 'front-desk',
        kind: 'mail-texts' as const,
        actions: ['look' as const, 'change' as const],
        whose: 'anyone' as const,
      },
    ]
    const { press, text, find } = await mountScreen(Mail, {
      answers: {
        'GET mail/texts': [
          { ...texts[0]!, token: true },
          { ...texts[0]!, key: 'waiting', subject: 'We look at it', token: false },
        ],
      },
      data: startData({ me: { id: 'p', name: 'P', masterKey: false, roles: ['front-desk'], rules } }),
    })
    await press('Is this you?')
    expect([
      (find('Subject') as HTMLInputElement).disabled,
      text().includes('only the master key changes its words'),
    ]).toEqual([true, true])
    await press('We look at it')
    expect((find('Subject') as HTMLInputElement).disabled).toBe(false)
  })

  it('is known to work once a code came back', async () => {
    const { press, type, text, calls, answers } = await mail()
    expect(text()).toContain('It is not known whether mail works.')
    await press('Does mail work?')
    expect(text()).toContain('A mail with a code is on its way to your own address.')
    await type('The code of the mail', '417 201')
    answers['GET settings'] = { ...settings, mailWorks: true }
    await submit('The code of the mail')
    expect(put(calls)).toEqual([
      ['mail/check', {}],
      ['mail/check', { code: '417 201' }],
    ])
    expect(text()).toContain('Mail works: a code came back.')
  })

  it('says what its texts say: changed, kept, and as they came', async () => {
    const { press, type, text, calls, find, answers } = await mail()
    await press('Texts')
    expect(text()).toContain('changed')
    await press('Is this you?')
    expect(text()).toContain('It may name {name} {link}.')
    await type('Subject', 'Please confirm')
    answers['PUT mail/texts/confirm'] = refusal('bad-input', '{who} is not among what this text may name.')
    find('Subject')
      .closest('form')!
      .dispatchEvent(new Event('submit', { cancelable: true }))
    await flushPromises()
    expect(put(calls)).toEqual([
      ['mail/texts/confirm', { subject: 'Please confirm', plain: 'Dear {name}', html: '<p>Dear {name}</p>' }],
    ])
    expect(text()).toContain('{who} is not among what this text may name.')
    expect((find('Subject') as HTMLInputElement).value).toBe('Please confirm')
    await press('as Bravik brings it')
    expect((find('Subject') as HTMLInputElement).value).toBe('Confirm your address')
  })

  it('shows only the texts to who looks after texts', async () => {
    const { text } = await mountScreen(Mail, {
      answers: { 'GET mail/texts': texts },
      data: startData({
        me: {
          id: 'p',
          name: 'P',
          masterKey: false,
          roles: ['front-desk'],
          rules: [{ role: 'front-desk', kind: 'mail-texts', actions: ['look'], whose: 'anyone' }],
        },
      }),
    })
    expect(text()).toContain('Is this you?')
    expect(text()).not.toContain('Outbox')
  })
})
