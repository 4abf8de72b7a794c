/** What one visitor is sent for an address of a small site: without a database, and with words that say where they are from. */
import { CompiledRules } from '../../core/gates/compiled'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import type { Resource } from '../../core/kinds/kinds'
import { assemble } from '../../core/pages/assemble'
import { PageContext } from '../../core/pages/page-context'
import type { AssembleAsk, PageSource } from '../../core/pages/made-from/page-source'
import type { Gate } from '../../core/rulebook/gate'
import type { Rulebook } from '../../core/rulebook/rulebook'
import type { Site } from '../../core/site/site'
import type { Visitor } from '../../core/visitor/visitor'
import { wexlowFrame } from './wexlow-frame'

export const at = Date.parse('2026-11-24T10:00:00Z')
export const guest: Visitor = { person: null }
const since = '2026-01-01T00:00:00Z'
export const pia: Visitor = { person: { id: 'p-pia', name: 'Pia' } }
export const maker: Visitor = { ...pia, levels: [{ level: 'maker', since }] }
export const forMakers = { level: { atLeast: 'maker' } }

export interface SmallSite {
  /** Lists of things, by the names the site gives them. */ things?: Record<string, object[]>
  gates?: object[]
  book?: Partial<Rulebook>
  visitor?: Visitor
  /** By `kind:id`. */ content?: Record<string, Record<string, unknown>>
  source?: Partial<PageSource>
  ask?: Partial<AssembleAsk>
}

export const siteOf = (things: Record<string, object[]> = {}): Site =>
  ({ ...wexlowFrame, ...things }) as unknown as Site
export const bookOf = (gates: object[] = [], more: Partial<Rulebook> = {}): Rulebook =>
  ({
    bravik: 'rulebook/1',
    levels: [{ id: 'maker', rank: 20, name: 'Maker', price: { amount: 600, every: 'month' } }],
    roles: [
      { id: 'keeper', name: 'Keeper', staff: true },
      { id: 'islander', name: 'Islander', publicName: 'an islander' },
    ],
    gates: gates.map((gate, i) => ({ id: `g${i}`, ...gate }) as Gate),
    ...more,
  }) as Rulebook

export function deciderAt({ things, gates, book, visitor = guest }: SmallSite): CompiledDecider {
  return new CompiledDecider(new CompiledRules(bookOf(gates, book), siteOf(things)), visitor, at)
}

/** All that a page is assembled from; `read` collects what was read. */
export function askAt(path: string, small: SmallSite): AssembleAsk & { read: string[] } {
  const decider = deciderAt(small)
  const read: string[] = []
  const source: PageSource = {
    read: async (things: readonly Resource[]) => void read.push(...things.map(one => `${one.kind}:${one.id}`)),
    content: (kind, id) => small.content?.[`${kind}:${id}`],
    text: markdown => `<${markdown}>`,
    mark: name => `[${name}]`,
    panel: async shows => ({ shows }) as never,
    forms: [],
    ...small.source,
  }
  return { rules: decider.rules, decider, source, path, ...small.ask, read }
}
export const contextAt = (path: string, small: SmallSite) => new PageContext(askAt(path, small))
export const assembledAt = (path: string, small: SmallSite) => assemble(askAt(path, small))
export const viewAt = async (path: string, small: SmallSite) => (await assembledAt(path, small)).view
