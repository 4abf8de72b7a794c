import { describe, expect, it } from 'vitest'
import SentenceEditor from '../../app/loft/kit/sentences/SentenceEditor.vue'
import type { Condition } from '../../core/conditions/condition'
import { lexiconOf } from '../../core/sentences/lexicon'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import { holdTimers, mountScreen } from './loft-screen'

const lexicon = lexiconOf(wexlowRulebook, { timezone: 'Europe/Dublin', currency: 'EUR' }, { firms: [], people: [] })
const guild: Condition = { level: { atLeast: 'guild' } }
const either: Condition = { any: [guild, { role: { anyOf: ['test-knitter'] } }] }

async function editing(condition: Condition, values: Record<string, boolean | 'unknown'> = {}) {
  const screen = await mountScreen(SentenceEditor, {
    props: { lead: 'Open to', condition, lexicon, values, editable: true },
  })
  const tokens = () => [...document.querySelectorAll<HTMLElement>('button.token:not(.add)')]
  const said = () => screen.wrapper.emitted('change')?.map(([one]) => one as Condition | null) ?? []
  /** What the screen that holds the sentence would do. */
  const takeOver = () => screen.wrapper.setProps({ condition: said().at(-1)! })
  return { ...screen, tokens, said, takeOver }
}

describe('a sentence', () => {
  it('tints each token by how the visitor fares, and says so', async () => {
    const { tokens } = await editing(either, { '/any/0': true, '/any/1': 'unknown' })
    expect(
      tokens().map(token => [token.textContent?.trim(), token.className, token.getAttribute('aria-label')]),
    ).toEqual([
      ['Guild or above', 'token met', 'Guild or above, met. Enter changes it.'],
      ['Test knitters', 'token unknown', 'Test knitters, not known. Enter changes it.'],
    ])
  })

  it('changes a token for what is picked among everything a rule can say', async () => {
    const { press, type, key, find, said } = await editing(guild)
    await press('Guild or above')
    await type('Say who', 'class')
    const offered = [...document.querySelectorAll('[role=option]')].map(one => one.lastElementChild!.textContent)
    expect(offered).toContain('Classrooms')
    await key(find('Say who'), 'Enter')
    expect(said()).toEqual([{ role: { anyOf: ['classroom'] } }])
  })

  it('teaches what can be said where nothing is typed; a blank that is taken is gone on with', async () => {
    const { press, find, type, key, said } = await editing(guild)
    await press('+ or')
    const options = () => [...document.querySelectorAll<HTMLElement>('[role=option]')]
    const headings = () =>
      options().flatMap(one => (one.children.length > 1 ? [one.firstElementChild!.textContent] : []))
    expect(headings().slice(0, 4)).toEqual(['what they hold', 'who they are', 'what they bought', 'when'])
    await type('Or whom', 'coupon')
    expect(options().map(one => one.lastElementChild!.textContent)).toEqual(['address carries …'])
    await key(find('Or whom'), 'Enter')
    expect([(find('Or whom') as HTMLInputElement).value, said()]).toEqual(['address carries ', []])
    await type('Or whom', 'address carries spring')
    await key(find('Or whom'), 'Enter')
    expect(said().at(-1)).toEqual({ any: [guild, { query: { name: 'spring' } }] })
  })

  it('asks the server whose name is being typed, and offers who is found', async () => {
    const timers = holdTimers()
    const { press, type, calls, loft, answers } = await editing(guild)
    answers['GET names'] = { people: [{ id: 'p-guda', name: 'Guda Moor' }], firms: [{ id: 'sett', name: 'Sett & Co' }] }
    await press('+ or')
    await type('Or whom', 'company se')
    await timers.pass(200)
    expect(calls.map(call => `${call.method} ${call.path}`)).toEqual(['GET names?q=se'])
    expect(loft.lexicon.firms).toEqual([{ id: 'sett', name: 'Sett & Co' }])
    expect(loft.lexicon.people).toEqual([{ id: 'p-guda', name: 'Guda Moor' }])
  })

  it('takes a whole phrase typed into a token', async () => {
    const { press, type, key, find, said } = await editing(guild)
    await press('Guild or above')
    await type('Say who', 'Maker or above and from 1 Dec 2026')
    await key(find('Say who'), 'Enter')
    expect(said()).toHaveLength(1)
    expect(JSON.stringify(said()[0])).toContain('"atLeast":"maker"')
    expect(JSON.stringify(said()[0])).toContain('2026-12-01')
  })

  it('grows by “or” and “and”, shrinks by Backspace, and comes back by undo', async () => {
    const { press, type, key, find, tokens, said, takeOver } = await editing(guild)
    await press('+ or')
    await type('Or whom', 'Stockist')
    await key(find('Or whom'), 'Enter')
    expect(said().at(-1)).toEqual({ any: [guild, { role: { anyOf: ['stockist'] } }] })
    await takeOver()
    await key(tokens()[0]!, 'Backspace')
    expect(said().at(-1)).toEqual({ role: { anyOf: ['stockist'] } })
    await takeOver()
    await key(tokens()[0]!, 'z', { ctrlKey: true })
    expect(said().at(-1)).toEqual({ any: [guild, { role: { anyOf: ['stockist'] } }] })
    await takeOver()
    await key(tokens()[0]!, 'z', { ctrlKey: true })
    expect(said().at(-1)).toEqual(guild)
  })

  it('is walked by arrows, and a token is turned round by its key', async () => {
    const { key, tokens, said } = await editing(either)
    tokens()[0]!.focus()
    await key(tokens()[0]!, 'ArrowRight')
    expect(document.activeElement).toBe(tokens()[1])
    await key(tokens()[1]!, 'ArrowLeft')
    expect(document.activeElement).toBe(tokens()[0])
    await key(tokens()[0]!, 'n')
    expect(said().at(-1)).toEqual({ any: [{ not: guild }, { role: { anyOf: ['test-knitter'] } }] })
  })

  it('is typed as text: what is wrong is told at its place, and nothing of it is taken', async () => {
    const { press, type, find, text, said } = await editing(either)
    await press('as text')
    expect((find('Open to') as HTMLTextAreaElement).value).toBe('Guild or above or Test knitters')
    await type('Open to', 'Guild or above or Somebodies')
    expect(text()).toContain('At “Somebodies”: expected')
    expect((find('Take this') as HTMLButtonElement).disabled).toBe(true)
    await type('Open to', 'not Islander')
    document.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }))
    expect(said()).toEqual([{ not: { role: { anyOf: ['islander'] } } }])
  })

  it('closes an opened token on Escape, as it was', async () => {
    const { press, key, find, tokens, said } = await editing(guild)
    await press('Guild or above')
    await key(find('Say who'), 'Escape')
    expect([tokens().length, said()]).toEqual([1, []])
  })

  it('that may not be changed offers nothing to press', async () => {
    const { text } = await mountScreen(SentenceEditor, {
      props: { lead: 'Open to', condition: either, lexicon, values: { '/any/0': false }, editable: false },
    })
    expect(document.querySelectorAll('button')).toHaveLength(0)
    expect(text()).toBe('Open to Guild or above (not met) or Test knitters')
  })
})
