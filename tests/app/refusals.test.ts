import { describe, expect, it } from 'vitest'
import Refusals from '../../app/components/loft/Refusals.vue'
import { mountScreen, refusal } from './loft-screen'

describe('what the refused get where no gate says', () => {
  it('is said for anything, and apart for a kind of thing, beside the other settings', async () => {
    const { loft, type, press, find, text, answers } = await mountScreen(Refusals)
    const said = () => loft.draft.settings
    const before = said()!
    await type('Otherwise', 'teaser')
    expect(said()).toEqual({ ...before, otherwise: { ...before.otherwise, any: { teaser: true } } })
    await press('+ posts')
    expect(said()!.otherwise).toMatchObject({ any: { teaser: true }, post: { teaser: true } })
    expect(text()).toContain('Posts')
    answers['PUT entries/settings/site'] = refusal('bad-input', 'A notice says something.')
    await type('Otherwise', 'none')
    await loft.settled()
    expect(said()!.otherwise).not.toHaveProperty('any')
    expect([text().includes('A notice says something.'), find('Otherwise') !== null]).toEqual([true, true])
  })
})
