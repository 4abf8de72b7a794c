import { describe, expect, it } from 'vitest'
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
})
