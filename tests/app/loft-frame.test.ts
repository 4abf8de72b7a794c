import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { nextTick } from 'vue'
import DraftStrip from '../../app/loft/kit/publish/DraftStrip.vue'
import Editions from '../../app/loft/editions/Editions.vue'
import LoftLayout from '../../app/layouts/loft.vue'
import type { Level } from '../../core/rulebook/people-rules'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import { everybody, holdTimers, listed, startData, mountScreen, refusal } from './loft-screen'
import { led, route } from './nuxt-names'

const rightsOf = (...kinds: ('people' | 'pages' | 'products' | 'activity' | 'gates')[]) => ({
  id: 'p',
  name: 'Dace Orr',
  masterKey: false,
  roles: ['front-desk'],
  rules: kinds.map(kind => ({ role: 'front-desk', kind, actions: ['look' as const], whose: 'anyone' as const })),
})
const places = () => [...document.querySelectorAll('nav[aria-label="Places"] a')].map(link => link.textContent!.trim())

describe('the loft', () => {
  it('offers the places somebody may enter, and leads there who may not see Reach', async () => {
    const { press } = await mountScreen(LoftLayout, { data: startData({ waiting: 3 }) })
    expect(places()).toEqual(['Reach', 'Site', 'Shop', 'Who', 'People3', 'Door', 'Editions', 'Activity'])
    await press('People3')
    await mountScreen(LoftLayout, { data: startData({ me: rightsOf('pages', 'activity') }) })
    expect(places()).toEqual(['Site', 'Activity'])
    await flushPromises()
    expect(led).toEqual(['/loft/site'])
  })

  it('says so to a staff role that may do nothing yet', async () => {
    const { text } = await mountScreen(LoftLayout, { data: startData({ me: rightsOf() }) })
    expect(text()).toContain('Your staff role may do nothing in the loft so far.')
  })

  it('finds things, places, roles, gates and people by their names, and goes there', async () => {
    const timers = holdTimers()
    const { key, text } = await mountScreen(LoftLayout, {
      answers: { 'GET people': everybody(listed('p-guda', 'Guda Moor', { email: 'guda@wexlow.example' })) },
    })
    await key(document.body, '/')
    const field = document.querySelector<HTMLInputElement>('[aria-label="Find anything"]')!
    const look = async (words: string, tasks = false) => {
      field.value = words
      field.dispatchEvent(new Event('input', { bubbles: true }))
      await timers.pass(200)
      const all = [...document.querySelectorAll('[role=option]')].map(option =>
        option.textContent!.replaceAll(/\s+/g, ' ').trim(),
      )
      return all.filter(one => one.startsWith('→') === tasks)
    }
    expect(await look('gansey course')).toEqual(
      expect.arrayContaining([
        'The gansey coursepage · /techniques/gansey',
        'Gansey coursemenu item · follows its page',
        'Gansey coursegate',
      ]),
    )
    expect(await look('stockist')).toEqual(['Stockistrole'])
    expect(await look('stockist', true)).toEqual([])
    expect((await look('wholesale price', true))[0]).toBe('→A wholesale pricebegin · Shop, Prices')
    expect(await look('landings')).toEqual(['Doorplace'])
    expect(await look('guda')).toEqual(['Guda Moorperson · guda@wexlow.example'])
    await key(field, 'Enter')
    expect(led).toEqual(['/loft/people/p-guda'])
    expect(text()).not.toContain('Nothing is called that')
  })

  it('asks before somebody leaves with something unsaved, and only then', async () => {
    const { loft } = await mountScreen(LoftLayout)
    const leaving = () => {
      const event = new Event('beforeunload', { cancelable: true })
      window.dispatchEvent(event)
      return event.defaultPrevented
    }
    expect(leaving()).toBe(false)
    loft.change('level', 'guild', { id: 'guild', name: 'The Guild', rank: 30 })
    expect(leaving()).toBe(true)
    await loft.settled()
    expect(leaving()).toBe(false)
  })

  it('tells the second of two keepers, with both versions', async () => {
    const mine = { ...wexlowRulebook.gates!.find(gate => gate.id === 'trade')!, open: { everyone: true } }
    const theirs = { ...mine, open: { role: { anyOf: ['classroom'] } } }
    const refused = Object.assign(refusal('changed-meanwhile', 'Mako changed this while you were editing.'), {
      extra: { current: { id: 1, revision: 4, body: theirs, changedBy: 'Mako' } },
    })
    const { loft, text, press, answers, calls } = await mountScreen(LoftLayout, {
      answers: { 'PUT entries/gate/trade': refused },
    })
    loft.change('gate', 'trade', mine)
    await loft.settled()
    await flushPromises()
    expect(text()).toContain('Mako changed this while you were editing. Nothing is lost:')
    expect(text()).toContain('theirs Open to Classrooms.')
    expect(text()).toContain('yours Open to everyone.')
    delete answers['PUT entries/gate/trade']
    await press('Keep mine')
    expect(calls.filter(call => call.method === 'PUT').at(-1)!.body).toEqual({
      body: mine,
      expects: { id: 1, revision: 4 },
    })
    expect(text()).not.toContain('Nothing is lost')
  })

  it('says that it cannot reach the server, and tries again', async () => {
    const { loft, text, press, answers } = await mountScreen(LoftLayout)
    const board = answers['GET start']
    answers['GET start'] = refusal('internal', 'The database does not answer.')
    await loft.load()
    await flushPromises()
    expect(text()).toContain('The database does not answer.')
    answers['GET start'] = board
    await press('Try again')
    expect(text()).not.toContain('The database does not answer.')
    expect(route.path).toBe('/loft')
  })
})

describe('editions', () => {
  const after = { ...wexlowRulebook.gates!.find(gate => gate.id === 'trade')!, open: { everyone: true as const } }
  const level: Level = { id: 'patron', name: 'Patron', rank: 40 }
  const book = {
    ...wexlowRulebook,
    gates: wexlowRulebook.gates!.map(gate => (gate.id === 'trade' ? after : gate)),
    levels: [...wexlowRulebook.levels!, level],
  }
  const change = (kind: 'gate' | 'level', key: string, before: unknown, to: unknown) => ({
    kind,
    key,
    id: 1,
    revision: 1,
    position: 1,
    before,
    after: to,
    changedBy: 'Ines Varga',
    changedAt: '2026-11-24T09:05:00Z',
  })
  const data = startData({
    draft: book,
    changes: [
      change(
        'gate',
        'trade',
        wexlowRulebook.gates!.find(gate => gate.id === 'trade'),
        after,
      ),
      change('level', 'patron', null, level),
    ],
  })
  const editions = (answers = {}) =>
    mountScreen(Editions, {
      data,
      answers: {
        'GET editions': [
          { number: 1, publishedAt: '2026-11-01T08:00:00Z', publishedBy: 'Wexlow Mill', note: 'Opening day' },
        ],
        ...answers,
      },
    })

  it('say what each change of the draft says and moves, and what was published before', async () => {
    const { text } = await editions()
    expect(text()).toContain('gate Trade desk by Ines Varga, 24 Nov 2026, 09:05')
    expect(text()).toContain('Open to Stockists')
    expect(text()).toContain('level Patron')
    expect(text()).toMatch(/Edition 2 would move \d+ cells/)
    expect(text()).toContain('1 Nov 2026, 08:00 · Wexlow Mill')
  })

  it('stay out where they are taken out while the draft is still being weighed', async () => {
    const { find, text } = await editions()
    const box = find('Publish Patron') as HTMLInputElement
    for (const _ of ['out', 'in', 'out']) {
      box.click()
      await nextTick()
    }
    await flushPromises()
    expect(box.checked).toBe(false)
    expect(text()).toContain('1 of 2 ticked')
    expect(text()).not.toContain('ticked with it')
  })

  it('go out whole, with a note, and say why not', async () => {
    const { press, type, text, calls, answers } = await editions({
      'POST publish': refusal('changed-meanwhile', 'Edition 2 was published meanwhile.'),
    })
    await press('Publish edition 2…')
    expect(text()).toContain('2 changes go live together, on every server.')
    await type('Note for this edition', 'The desk opens')
    document.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }))
    await flushPromises()
    expect(text()).toContain('Edition 2 was published meanwhile.')
    answers['POST publish'] = { edition: 2 }
    document.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }))
    await flushPromises()
    expect(calls.filter(call => call.path === 'publish').map(call => call.body)).toEqual([
      { note: 'The desk opens', expects: 1 },
      { note: 'The desk opens', expects: 1 },
    ])
    expect(text()).not.toContain('go live together')
  })

  it('go out from the strip as far as they are ticked, with what belongs to them', async () => {
    const { press, text, calls, answers, find } = await mountScreen(DraftStrip, { data })
    answers['POST publish'] = { edition: 2 }
    await press('Publish edition 2…')
    await press('Publish Patron')
    expect((find('Publish Patron') as HTMLInputElement).checked).toBe(false)
    expect(text()).toContain('1 change goes live together, on every server.')
    expect(text()).toContain('The rest stays in the draft.')
    document.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }))
    await flushPromises()
    expect(calls.find(call => call.path === 'publish')!.body).toEqual({ note: '', expects: 1, chosen: ['gate trade'] })
  })

  it('publish one level alone, which moves nothing', async () => {
    const { press, text } = await editions()
    await press('Publish Trade desk')
    expect(text()).toContain('1 of 2 ticked')
    expect(text()).toContain('0 cells move: 0 gain, 0 lose')
  })

  it('take one change out of the draft', async () => {
    const { press, calls, text, answers } = await editions()
    answers['POST entries/level/patron/undo'] = refusal('in-use', 'Still used by tier “Patrons”.')
    await press('Undo the change of Patron')
    expect(text()).toContain('Still used by tier “Patrons”.')
    expect(calls.some(call => call.path === 'entries/level/patron/undo')).toBe(true)
  })
})
