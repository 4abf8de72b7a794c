/**
 * Addresses the application answers itself: no page of the site can have them, and no gate stands before
 * them. One list; what is reserved, which methods are known, who answers and how follow from it.
 */
import type { OwnShown } from '../kinds/block'

export type Method = 'GET' | 'POST' | 'PUT' | 'DELETE'

/** Where the site is searched: `?q=` says for what. */
export const searchAddress = '/search'

export interface OwnAddress {
  /** `:name` stands for one segment; a last `/**` for whatever lies below, at least one segment. */
  path: string
  methods: readonly Method[]
  /**
   * `route`: by a handler of its own. `own page`: by a page with its form, see `server/own-pages`; whatever lies
   * below belongs to it. `form`: a page of the application whose form is sent to a handler. `screen`: by a screen.
   */
  by: 'route' | 'own page' | 'form' | 'screen'
  /** What it is for, where the site's frame stands around it. */
  shows?: OwnShown
  /** Asked by programs: whoever says nothing about what they take gets JSON. */
  programs?: true
}

const route = (path: string, methods: readonly Method[]) => ({ path, methods, by: 'route', programs: true }) as const
const ownPage = <P extends string>(path: P, shows: OwnShown) =>
  ({ path, methods: ['GET'], by: 'own page', shows }) as const

export const ownAddresses = [
  route('/api/session', ['GET', 'POST', 'DELETE']),
  route('/api/payments/notice', ['POST']),
  // Each action of the console declares its own address and method below this one.
  route('/api/loft/**', []),
  route('/health', ['GET']),
  route('/ready', ['GET']),
  route('/metrics', ['GET']),
  route('/go/:block', ['GET']),
  route('/picture/:kind/:id/:mark', ['GET']),
  route('/feed', ['GET']),
  route('/feed/:topic', ['GET']),
  route('/feed/own/:token', ['GET']),
  route('/feed/own/:token/:topic', ['GET']),
  { path: '/sitemap.xml', methods: ['GET'], by: 'route' },
  { path: '/sitemap/:part', methods: ['GET'], by: 'route' },
  { path: '/robots.txt', methods: ['GET'], by: 'route' },
  { path: searchAddress, methods: ['GET'], by: 'screen', shows: 'search' },
  { path: '/fetch/:id', methods: ['GET'], by: 'route' },
  { path: '/fetch/:id/:token/:name', methods: ['GET'], by: 'route' },
  route('/account/data', ['GET']),
  { path: '/sign-out', methods: ['POST'], by: 'route' },
  { path: '/sign-in', methods: ['GET', 'POST'], by: 'form', shows: 'entrance' },
  { path: '/first-keeper', methods: ['GET', 'POST'], by: 'form', shows: 'entrance' },
  ownPage('/sign-up', 'entrance'),
  ownPage('/signed-up', 'entrance'),
  ownPage('/confirm', 'entrance'),
  ownPage('/forgot', 'entrance'),
  ownPage('/reset', 'entrance'),
  ownPage('/pay', 'shop'),
  ownPage('/basket', 'shop'),
  ownPage('/till', 'shop'),
  ownPage('/order', 'shop'),
  ownPage('/gift', 'shop'),
  ownPage('/invoice', 'shop'),
  { path: '/paper/:order/:name', methods: ['GET'], by: 'route' },
  ownPage('/apply', 'entrance'),
  ownPage('/join-firm', 'entrance'),
  ownPage('/account/profile', 'account'),
  ownPage('/account/address', 'account'),
  ownPage('/account/do', 'account'),
  ownPage('/account/buy', 'account'),
  ownPage('/account/leave', 'account'),
  ownPage('/account/codes', 'account'),
  { path: '/loft', methods: ['GET'], by: 'screen' },
  { path: '/loft/**', methods: ['GET'], by: 'screen' },
  { path: '/walk/stranger/**', methods: ['GET', 'POST'], by: 'route' },
  { path: '/walk/**', methods: ['GET'], by: 'screen', programs: true },
  { path: '/_nuxt/**', methods: ['GET'], by: 'route' },
] as const satisfies readonly OwnAddress[]

type Own = (typeof ownAddresses)[number]
export type OwnPagePath = Extract<Own, { by: 'own page' }>['path']

const list: readonly OwnAddress[] = ownAddresses
/** The part of a path before what stands for something else. */
const fixed = (path: string) => path.replace(/\/(:\w+|\*\*).*$/, '')
/** Everything at and below these is reserved. `/api` is, whatever is asked for there. */
const reserved = new Set([...list.map(one => fixed(one.path)), '/api'])
const forPrograms = new Set([...list.filter(one => one.programs).map(one => fixed(one.path)), '/api'])

const atOrBelow = (path: string, roots: ReadonlySet<string>): boolean => {
  for (let end = path.length; end > 0; end = path.lastIndexOf('/', end - 1))
    if (roots.has(path.slice(0, end))) return true
  return false
}

export const isOwnAddress = (path: string) => atOrBelow(path, reserved)
/** Whether programs ask there. */
export const isForPrograms = (path: string) => atOrBelow(path, forPrograms)

/** Whether a canonical path fits an address of the list. */
export function fitsAddress(parts: readonly string[], asked: readonly string[]): boolean {
  if (parts.at(-1) === '**')
    return asked.length >= parts.length && parts.slice(0, -1).every((part, i) => part === asked[i])
  return parts.length === asked.length && parts.every((part, i) => part.startsWith(':') || part === asked[i])
}

const routes = list.filter(one => one.by === 'route').map(one => one.path.split('/'))
/** Whether a handler of its own answers there, so that no page is assembled. */
export function isAnsweredByRoute(path: string): boolean {
  if (path.startsWith('/api/')) return true
  const asked = path.split('/')
  return routes.some(parts => fitsAddress(parts, asked))
}
/** Whether it is a page of the application whose form a handler takes. */
const forms: ReadonlySet<string> = new Set(list.filter(one => one.by === 'form').map(one => one.path))
export const isFormPage = (path: string) => forms.has(path)

const shown = list.flatMap(({ path, shows }) => (shows ? [[path.split('/'), shows] as const] : []))
/** What a page of the application is for; undefined for any that is none. */
export const ownShownAt = (path: string): OwnShown | undefined => {
  const asked = path.split('/')
  return shown.find(([parts]) => parts.every((part, i) => part === asked[i]))?.[1]
}
