import { describe, expect, it } from 'vitest'
import SaidFields from '../../app/loft/kit/things/SaidFields.vue'
import ThingFields from '../../app/loft/kit/things/ThingFields.vue'
import { product } from '../../app/kinds/plain'
import { mountScreen } from './loft-screen'

describe('what staff write of a thing', () => {
  it('tells which parts are not theirs to look at, and shows none of them as if it were empty', async () => {
    const props = {
      thing: { title: 'Fell DK', summary: 'Five colours.' },
      fields: product.fields!,
      unseen: ['price', 'taxCategory', 'goodsTaxed', 'deliveryTaxed', 'sent', 'weight', 'sale'],
      may: ({ key }: { key: string }) => key === 'summary',
    }
    const { text, find } = await mountScreen(ThingFields, { props })
    expect(text()).toContain(
      'Not yours to look at: Price, Tax category, Is it taxed?, Is sending it taxed?, Is it sent?, Grams of one, On sale at.',
    )
    for (const name of ['Price', 'Is it taxed?', 'Grams of one']) expect(() => find(name)).toThrow()
    const [title, summary] = [find('Title'), find('Summary')] as HTMLInputElement[]
    expect([title!.disabled, title!.value, summary!.disabled]).toEqual([true, 'Fell DK', false])
  })

  it('says the same as sentences, of which each word that is theirs to change is written in its place', async () => {
    const thing = {
      title: 'Fell DK',
      categories: ['yarn'],
      sent: false,
      weight: 55,
      goodsTaxed: false,
      path: '/shop/fell',
    }
    const props = {
      of: { kind: 'product', key: 'fell-dk' },
      looked: { kind: 'product', id: 'fell-dk', version: { id: 1, revision: 1 }, thing, unseen: ['price', 'sale'] },
      may: ({ key }: { key: string }) => key !== 'path',
    }
    const { text, find, press, type, loft } = await mountScreen(SaidFields, { props })
    expect(text()).toContain('Lies in Yarn.')
    expect(text()).toContain('the goods: not taxed; sending them: taxed.')
    expect(text()).toContain('Delivery: nothing to send; one weighs 55 g.')
    expect(text()).toContain('Not yours to look at: Price, On sale at.')
    expect(text()).not.toContain('It costs')
    expect(() => find('Address: /shop/fell')).toThrow()
    await press('Grams of one: 55 g')
    await type('Grams of one', '60')
    expect(loft.typed.get('product fell-dk')).toMatchObject({ parts: { weight: 60 } })
    await press('Done')
    expect(document.querySelector('[data-written]')).toBeNull()
  })
})
