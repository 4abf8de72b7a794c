import { readdirSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { describe, expect, it } from 'vitest'
import { isAnsweredByRoute, isForPrograms, isFormPage, isOwnAddress, ownAddresses } from '../../core/site/own-addresses'
import { ownPages } from '../../server/own-pages/index'
import { methodsAt } from '../../server/own-routes'

/** Files of a folder of handlers, as `METHOD /path`, by Nitro's convention. */
const handlers = (folder: string, below: string) =>
  readdirSync(fileURLToPath(new URL(`../../server/${folder}`, import.meta.url)), {
    recursive: true,
    withFileTypes: true,
  })
    .filter(one => one.isFile() && !one.name.startsWith('[...]'))
    .map(one => {
      const file = `${one.parentPath}/${one.name}`.split(`/server/${folder}/`)[1]!
      const [, path, method] = /^(.*)\.(get|post|put|delete)\.ts$/.exec(file)!
      return `${method!.toUpperCase()} ${below}/${path!.replace(/\[\.\.\.\w+\]/, '**').replaceAll(/\[(\w+)\]/g, ':$1')}`
    })

describe('the list of addresses the application answers itself', () => {
  it('names every handler there is, and no other', () => {
    const listed = ownAddresses
      .filter(one => one.by === 'route' || one.by === 'form')
      .flatMap(({ path, methods, by }) =>
        methods.filter(method => by === 'route' || method !== 'GET').map(method => `${method} ${path}`),
      )
      .filter(one => !one.includes('/_nuxt/'))
    expect(listed.sort()).toEqual([...handlers('routes', ''), ...handlers('api', '/api')].sort())
  })

  it('names every page of its own there is, and no other', () => {
    const listed = ownAddresses.filter(one => one.by === 'own page').map(one => one.path)
    expect(listed.sort()).toEqual(ownPages.map(page => page.path).sort())
  })

  it.each([
    ['/api/anything', true, true, true],
    ['/go/poster', true, true, true],
    ['/go', true, true, false],
    ['/account/data', true, true, true],
    ['/account/profile/more', true, false, false],
    ['/account', false, false, false],
    ['/loft/people', true, false, false],
    ['/lofty', false, false, false],
    ['/walk/x/visit', true, true, false],
    ['/sign-out', true, false, true],
    ['/visit', false, false, false],
    ['/', false, false, false],
  ])('%s: own %s, for programs %s, answered by a route %s', (path, own, programs, byRoute) => {
    expect([isOwnAddress(path), isForPrograms(path), isAnsweredByRoute(path)]).toEqual([own, programs, byRoute])
  })

  it('says which methods are known where', () => {
    const at = (path: string) => [...(methodsAt(path) ?? [])].sort().join(' ')
    expect([isFormPage('/sign-in'), isFormPage('/sign-up')]).toEqual([true, false])
    expect(at('/sign-in')).toBe('GET HEAD POST')
    expect(at('/sign-out')).toBe('POST')
    expect(at('/pay/pay-1')).toBe('GET HEAD POST')
    expect(at('/confirm/more')).toBe(at('/confirm'))
    expect(at('/api/loft/people/p-1')).toBe('DELETE GET HEAD PUT')
    expect(methodsAt('/api/loft')).toBeNull()
    expect(at('/visit')).toBe('GET HEAD')
  })
})
