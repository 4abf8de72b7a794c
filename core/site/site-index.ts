/** Looks things of a site up by kind and id, and walks what contains what. Built once per site, each list when it is first asked for. */
import { isKept, keptKinds, moduleOf } from '../kinds/kinds'
import type { Kept, Kind, Resource, ThingOf } from '../kinds/kinds'
import type { Lookup } from '../kinds/kind'
import { standsAt } from '../kinds/block'
import type { Block } from '../kinds/block'
import { splitField } from '../kinds/register'
import type { RegisterField } from '../kinds/register'
import type { Site } from './site'

type Named = { id: string; parent?: string }

export class SiteIndex implements Lookup {
  private readonly maps = new Map<string, Map<string, Named>>()
  private readonly lines = new Map<string, readonly string[]>()
  private addresses: Map<string, Resource> | undefined
  private places: Map<string, Block[]> | undefined

  constructor(readonly site: Site) {}

  /** All things of a kind, by id, in the order of the site. */
  all<K extends Kept>(kind: K): ReadonlyMap<string, ThingOf<K>> {
    let map = this.maps.get(kind)
    if (!map) {
      const { list, all } = moduleOf(kind)
      const things = (all ? all(this.site) : list ? (this.site as Record<string, unknown>)[list] : undefined) ?? []
      map = new Map((things as Named[]).map(thing => [thing.id, thing]))
      this.maps.set(kind, map)
    }
    return map as unknown as ReadonlyMap<string, never>
  }

  get<K extends Kept>(kind: K, id: string): ThingOf<K> | undefined
  get(kind: string, id: string): unknown
  get(kind: string, id: string): unknown {
    return isKept(kind) ? this.all(kind).get(id) : undefined
  }

  /** The thing of a question; some come along with it. */
  find(asked: Resource): { id: string } | undefined {
    const { find } = moduleOf(asked.kind)
    return find ? find(asked, this) : (this.get(asked.kind, asked.id) as Named | undefined)
  }

  /** Whether a site holds a thing. Records, which no site holds, are never there. */
  has(kind: Kept, id: string): boolean {
    return this.all(kind).has(id)
  }

  /** The type of a field named `register/field`. */
  field(id: string): RegisterField | undefined {
    const [register, field] = splitField(id)
    return this.get('register', register)?.fields?.find(one => one.id === field)
  }

  /** The address of a thing, if it has one of its own. A route's is what follows its method. */
  pathOf(kind: Kind, id: string): string | undefined {
    const thing = this.get(kind, id)
    return thing && moduleOf(kind).path?.(thing as never)
  }

  /** The thing at an address, as it is written there. */
  at(path: string): Resource | undefined {
    if (!this.addresses) {
      const addresses = new Map<string, Resource>()
      for (const kind of keptKinds) {
        const { path: pathOf, closed } = moduleOf(kind)
        // Service routes are answered by programs, not shown at an address.
        if (!pathOf || closed) continue
        for (const thing of this.all(kind).values()) {
          const path = pathOf(thing as never)
          if (path !== undefined && !addresses.has(path)) addresses.set(path, { kind: kind as Kind, id: thing.id })
        }
      }
      this.addresses = addresses
    }
    return this.addresses.get(path)
  }

  /** Blocks that stand in something, in the order of the site; of the frame by its part. */
  standingIn(kind: string, id: string): readonly Block[] {
    if (!this.places) {
      this.places = new Map()
      for (const block of this.all('block').values()) {
        const place = standsAt(block.in).join(':')
        const there = this.places.get(place)
        if (there) there.push(block)
        else this.places.set(place, [block])
      }
    }
    return this.places.get(`${kind}:${id}`) ?? []
  }

  lineage(kind: string, id: string): readonly string[] {
    const key = `${kind}:${id}`
    let line = this.lines.get(key)
    if (!line) {
      const walked: string[] = []
      const things = this.all(kind as Kept) as unknown as ReadonlyMap<string, Named>
      for (let at = things.get(id); at && !walked.includes(at.id); at = at.parent ? things.get(at.parent) : undefined)
        walked.unshift(at.id)
      line = walked
      this.lines.set(key, line)
    }
    return line
  }
}
