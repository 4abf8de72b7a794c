import { expect, it } from 'vitest'
import AddressGates from '../../app/loft/reach/AddressGates.vue'
import { mountScreen } from './loft-screen'

it('a gate on addresses is made and written, with what it matches now told while it is typed', async () => {
  const { press, type, text, loft } = await mountScreen(AddressGates, { props: { mayEdit: true, mayAdd: true } })
  expect(text()).toContain('/techniques/**?print=1')
  await press('+ Gate on addresses…')
  const gate = () => loft.draft.gates!.at(-1)!
  expect(gate()).toMatchObject({ on: { path: '/**?preview=1' }, open: { signedIn: true } })
  expect(text()).toMatch(/Now every address there is, where the address carries preview=1/)
  const field = 'Addresses the gate stands at'
  await type(field, '/trade/**')
  expect(gate().on).toEqual({ path: '/trade/**' })
  expect(text()).toMatch(/Now 4 addresses:.*Trade desk \/trade.*Trade prices \/trade\/prices/s)
  await type(field, '/nowhere/*')
  expect(text()).toContain('No address of the site is like that now')
  await type(field, 'trade')
  expect(text()).toContain('An address begins with “/”')
  expect(gate().on).toEqual({ path: '/nowhere/*' })
})
