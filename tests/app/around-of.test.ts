import { expect, it } from 'vitest'
import AroundOf from '../../app/loft/site/parts/AroundOf.vue'
import type { InFrame } from '../../core/kinds/block'
import { mountScreen } from './loft-screen'

it('says around what a part of the frame stands, names more, and leaves some out', async () => {
  const place: InFrame = { frame: 'footer' }
  const { press, type, text, wrapper } = await mountScreen(AroundOf, { props: { place, mayChange: true } })
  const last = () => wrapper.emitted('change')?.at(-1)?.[0] as InFrame
  expect(text()).toContain('Stands on every page')
  await press('+ only around…')
  await type('Around what it stands', 'techni')
  await press('Technique library and all below it')
  expect(last()).toEqual({ frame: 'footer', around: [{ page: 'techniques', below: true }] })
  await wrapper.setProps({ place: last() })
  await press('+ but not around…')
  await press('the account')
  expect(last()).toEqual({
    frame: 'footer',
    around: [{ page: 'techniques', below: true }],
    not: [{ own: 'account' }],
  })
  await wrapper.setProps({ place: last() })
  await press('Not around any more: Technique library and all below it')
  expect(last()).toEqual({ frame: 'footer', not: [{ own: 'account' }] })
  await wrapper.setProps({ place: last(), mayChange: false })
  expect(text()).toBe('Stands on every page, but not around the account.')
})
