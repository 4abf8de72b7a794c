import { describe, expect, it } from 'vitest'
import { agentOf } from '../../server/agent'
import { wantsPage } from '../../server/answer-problem'

const webkit = 'AppleWebKit/605.1.15 (KHTML, like Gecko)'
describe('a User-Agent', () => {
  it.each([
    [
      `Mozilla/5.0 (iPad; CPU OS 15_0 like Mac OS X) ${webkit} Version/15.0 Mobile/15E148 Safari/604.1`,
      'tablet',
      'safari',
    ],
    [
      `Mozilla/5.0 (iPhone; CPU iPhone OS 17_0 like Mac OS X) ${webkit} CriOS/120.0 Mobile/15E148 Safari/604.1`,
      'phone',
      'chrome',
    ],
    [
      'Mozilla/5.0 (Linux; Android 10; K) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/114.0.0.0 Mobile Safari/537.36',
      'phone',
      'chrome',
    ],
    ['Mozilla/5.0 (Windows NT 10.0) AppleWebKit/537.36 Chrome/120 Safari/537.36 Edg/120', 'desktop', 'edge'],
    ['Mozilla/5.0 (X11; Linux x86_64; rv:120.0) Gecko/20100101 Firefox/120.0', 'desktop', 'firefox'],
    ['curl/8.5', undefined, undefined],
    ['', undefined, undefined],
  ])('%s is %s, %s', (text, device, browser) => {
    const agent = agentOf(text)
    expect([agent.device, agent.browser]).toEqual([device, browser])
  })

  it('of any length costs what its first characters cost', () => {
    const start = performance.now()
    for (let i = 0; i < 200; i++) agentOf(`${i} ${'Mozilla/5.0 ('.repeat(10_000)}`)
    expect(performance.now() - start).toBeLessThan(2000)
  })
})

describe('a problem', () => {
  it.each([
    ['/visit', '*/*', true],
    ['/visit', 'application/json', false],
    ['/visit', 'text/html;q=0.1, application/json', false],
    ['/visit', 'text/html,application/xhtml+xml,*/*;q=0.8', true],
    ['/health', '*/*', false],
    ['/health', 'text/html', true],
    ['/api/session', 'text/html', false],
    ['/visit', 'image/png', false],
  ])('at %s for who takes %s is a page: %s', (path, accept, page) => expect(wantsPage(path, accept)).toBe(page))
})
