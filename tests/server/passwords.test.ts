import { describe, expect, it } from 'vitest'
import { Problem } from '../../server/problem'
import { hashPassword, passwordFits } from '../../server/services/secrets/passwords'

const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'done',
    (error: unknown) => (error instanceof Problem ? error.code : String(error)),
  )

describe('hashing', () => {
  it('runs two at once behind a short queue, and tells the others to come again', async () => {
    const answers = await Promise.all(Array.from({ length: 30 }, () => codeOf(passwordFits('guess', null))))
    expect(answers.filter(one => one === 'done')).toHaveLength(14)
    expect(answers.filter(one => one === 'busy')).toHaveLength(16)
    // And is free again afterwards.
    expect(await codeOf(hashPassword('harbour lights'))).toBe('done')
  }, 60_000)

  it('lets a known browser in before strangers, who cannot fill the queue against it', async () => {
    const order: string[] = []
    const asked = (name: string, known: boolean) =>
      codeOf(passwordFits('guess', null, known)).then(code => order.push(`${name} ${code}`))
    const strangers = Array.from({ length: 14 }, (_, i) => asked(`stranger ${i}`, false))
    const known = asked('known', true)
    await Promise.all([...strangers, known])
    expect(order).toContain('known done')
    expect(order.indexOf('known done')).toBeLessThan(6)
    expect(order.filter(one => one.endsWith('busy'))).toEqual(['stranger 13 busy'])
  }, 60_000)
})
