import { describe, expect, it } from 'vitest'
import Reaches from '../../app/loft/site/kit/Reaches.vue'
import { mountScreen } from './loft-screen'

const tiers = ['guest', 'signed-in', 'guild'].map(id => ({ id, name: id }))
const strip = () => [...document.querySelectorAll('button .sr-only')].map(one => one.textContent)

describe('the strip of one of several', () => {
  it('says that another comes first, where the gates alone would say that it opens', async () => {
    const of = async (id: string) => {
      await mountScreen(Reaches, { props: { thing: { kind: 'block', id }, tiers, tier: 'guest' } })
      return Object.fromEntries(strip().map(words => words!.split(': ') as [string, string]))
    }
    // The first is for the Guild, the second for whoever is signed in, the third for everybody.
    const [guild, member, all] = [await of('hello-guild'), await of('hello-member'), await of('hello-all')]
    expect([guild.Guest, guild.Guild]).toEqual(['unseen', 'open'])
    expect([member['Signed in'], member.Guild]).toEqual(['open', 'unseen, another of them comes first'])
    expect([all.Guest, all['Signed in'], all.Guild]).toEqual([
      'open',
      'unseen, another of them comes first',
      'unseen, another of them comes first',
    ])
  })
})
