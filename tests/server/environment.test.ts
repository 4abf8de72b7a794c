import { describe, expect, it } from 'vitest'
import { EnvironmentProblem, localAddress, readEnvironment } from '../../server/environment'

const problem = (env: Record<string, string>) => {
  try {
    readEnvironment(env)
  } catch (error) {
    return error instanceof EnvironmentProblem ? error.message : String(error)
  }
}

describe('the environment', () => {
  it('has defaults, and counts an empty variable as none', () => {
    expect(readEnvironment({ BRAVIK_SECRET: '', PORT: '' })).toMatchObject({
      PORT: 4321,
      HOST: '127.0.0.1',
      BRAVIK_TRUST_PROXY: 0,
      BRAVIK_DEMO: 'on',
    })
  })

  it.each([
    ['BRAVIK_SECRET', 'short'],
    ['BRAVIK_SMTP_URL', 'post.orr.example'],
    ['BRAVIK_SMTP_URL', 'http://post.orr.example'],
    ['BRAVIK_ADDRESS', 'wool.orr.example'],
    ['HOST', '::zz'],
    ['PORT', '70000'],
    ['PORT', '1e3'],
    ['DATABASE_URL', 'mysql://x'],
    ['BRAVIK_TRUST_PROXY', 'yes'],
    ['BRAVIK_DEMO', 'no'],
    ['BRAVIK_COUNTRY_HEADER', 'x country'],
    ['BRAVIK_METRICS_TOKEN', 'short'],
  ])('says in a sentence that %s is not right, and not what it holds', (name, value) => {
    expect(problem({ [name]: value })).toMatch(new RegExp(`^${name} is not right: [A-Z].*\\.`))
    if (value.length > 6) expect(problem({ [name]: value })).not.toContain(value)
  })

  it.each([
    ['127.0.0.1', 'http://127.0.0.1:80'],
    ['::1', 'http://[::1]:80'],
    ['::', 'http://[::1]:80'],
    ['0.0.0.0', 'http://127.0.0.1:80'],
    ['mill.example', 'http://mill.example:80'],
  ])('is reached at HOST %s by %s', (HOST, address) => expect(localAddress({ HOST, PORT: 80 })).toBe(address))
})
