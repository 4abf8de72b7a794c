import { effectScope, nextTick, ref } from 'vue'
import { expect, it } from 'vitest'
import { watchLast } from '../../app/loft/core/last-asked'

/** Questions that wait for their answers; what was taken of them. */
function asking() {
  const what = ref('')
  const waiting = new Map<string, () => void>()
  const taken: string[] = []
  const scope = effectScope()
  scope.run(() =>
    watchLast(what, async isLast => {
      const asked = what.value
      await new Promise<void>(answered => waiting.set(asked, answered))
      if (isLast()) taken.push(asked)
    }),
  )
  const ask = async (text: string) => {
    what.value = text
    await nextTick()
  }
  const answer = async (text: string) => {
    waiting.get(text)!()
    await nextTick()
  }
  return { ask, answer, taken, scope }
}

it('takes the answer to the last question alone, in whichever order they come', async () => {
  const { ask, answer, taken } = asking()
  await ask('one')
  await ask('two')
  await answer('two')
  await answer('one')
  expect(taken).toEqual(['two'])
  await ask('three')
  await ask('four')
  await answer('three')
  expect(taken).toEqual(['two'])
  await answer('four')
  expect(taken).toEqual(['two', 'four'])
})

it('takes none once whoever asked is gone', async () => {
  const { ask, answer, taken, scope } = asking()
  await ask('one')
  scope.stop()
  await answer('one')
  expect(taken).toEqual([])
})
