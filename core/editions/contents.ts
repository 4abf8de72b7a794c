/** What one edition holds: its rules and its things, each by kind and key. Never changed; `with` makes another. */
import { canonical } from '../canonical'
import { keptKinds, moduleOf, versionedKinds } from '../kinds/kinds'
import type { Kept } from '../kinds/kinds'
import { entryKinds, rulebookOf } from '../rulebook/rulebook'
import type { EntryKind, Rulebook } from '../rulebook/rulebook'
import { SiteIndex } from '../site/site-index'
import type { Site } from '../site/site'

export type VersionedKind = EntryKind | Kept
/** One version of a rule entry or a thing; a body of null says it is removed. */
export interface Version {
  kind: VersionedKind
  key: string
  position: number
  body: unknown
}

export const isEntryKind = (kind: string): kind is EntryKind => Object.hasOwn(entryKinds, kind)
const thingKinds: ReadonlySet<string> = new Set(versionedKinds)
export const isThingKind = (kind: string): kind is Kept => thingKinds.has(kind)
export const nameOf = ({ kind, key }: { kind: string; key: string }) => `${kind} ${key}`

/** What a site is besides its things; holds at once, in every edition. */
export type SiteFrame = Pick<Site, 'name' | 'timezone' | 'currency' | 'locale'>

/** Service routes the application itself answers; a gate can open or shut each. */
const routes: string[] = []

/** The rules or the things of an edition: by name, and in order. Never changed. */
class Part<V extends Version> {
  private ordered: readonly V[] | undefined

  constructor(
    readonly byName: ReadonlyMap<string, V>,
    ordered?: readonly V[],
  ) {
    this.ordered = ordered
  }

  get versions(): readonly V[] {
    return (this.ordered ??= [...this.byName.values()].sort(inOrder))
  }

  with(changes: readonly V[]): Part<V> {
    if (!changes.length) return this
    const next = new Map(this.byName)
    let inPlace = this.ordered !== undefined
    for (const one of changes) {
      const name = nameOf(one)
      inPlace &&= one.body !== null && next.get(name)?.position === one.position
      if (one.body === null) next.delete(name)
      else next.set(name, one)
    }
    // Where nothing moves the order is the old one: sorting a hundred thousand things at each keystroke is what would be slow.
    if (!inPlace) return new Part(next)
    const changed = new Map(changes.map(one => [nameOf(one), one]))
    return new Part(
      next,
      this.ordered!.map(one => changed.get(nameOf(one)) ?? one),
    )
  }
}

const inOrder = (a: Version, b: Version) => a.position - b.position || (a.key < b.key ? -1 : a.key > b.key ? 1 : 0)

export class Contents<V extends Version = Version> {
  private readonly rules: Part<V>
  private readonly things: Part<V>
  private read: { book?: Rulebook; index?: SiteIndex } = {}

  /** Removed ones among `versions` are left out. */
  constructor(
    versions: Iterable<V>,
    readonly frame: SiteFrame,
    parts?: { rules: Part<V>; things: Part<V> },
  ) {
    if (parts) {
      this.rules = parts.rules
      this.things = parts.things
      return
    }
    const [rules, things] = [new Map<string, V>(), new Map<string, V>()]
    for (const one of versions) if (one.body !== null) (isEntryKind(one.kind) ? rules : things).set(nameOf(one), one)
    this.rules = new Part(rules)
    this.things = new Part(things)
  }

  get(kind: VersionedKind, key: string): V | undefined {
    const name = `${kind} ${key}`
    return this.things.byName.get(name) ?? this.rules.byName.get(name)
  }

  /** Rules, then things, each in order. */
  get versions(): readonly V[] {
    return [...this.rules.versions, ...this.things.versions]
  }

  of(kind: VersionedKind): V[] {
    return (isEntryKind(kind) ? this.rules : this.things).versions.filter(one => one.kind === kind)
  }

  get thingVersions(): readonly V[] {
    return this.things.versions
  }

  get book(): Rulebook {
    return (this.read.book ??= rulebookOf(
      this.rules.versions.map(({ kind, key, body }) => ({ kind: kind as EntryKind, key, body })),
    ))
  }

  get index(): SiteIndex {
    return (this.read.index ??= new SiteIndex(this.makeSite()))
  }

  get site(): Site {
    return this.index.site
  }

  private makeSite(): Site {
    const kept = new Map<string, unknown[]>()
    for (const { kind, body } of this.things.versions) {
      const list = kept.get(kind)
      if (list) list.push(body)
      else kept.set(kind, [body])
    }
    const of = (kind: string) => kept.get(kind) ?? []
    const lists = keptKinds.flatMap(kind => {
      const { list, assemble } = moduleOf(kind)
      if (!list || !isThingKind(kind)) return []
      return [[list, assemble ? assemble(of(kind), of) : of(kind)]]
    })
    return { ...this.frame, ...Object.fromEntries(lists), routes } as Site
  }

  /** The same with other versions put over it. Whatever only changes rules shares the things, and the other way round. */
  with(changes: Iterable<V>, frame: SiteFrame = this.frame): Contents<V> {
    const list = [...changes]
    const rules = this.rules.with(list.filter(one => isEntryKind(one.kind)))
    const things = this.things.with(list.filter(one => !isEntryKind(one.kind)))
    if (rules === this.rules && things === this.things && frame === this.frame) return this
    const made = new Contents<V>([], frame, { rules, things })
    if (this.read.book && this.saysTheSame(list, isEntryKind)) made.read.book = this.read.book
    if (frame === this.frame && this.read.index && this.saysTheSame(list, isThingKind))
      made.read.index = this.read.index
    return made
  }

  /**
   * Whether these versions, of the kinds meant, say of what rules see what is said already, where it stands already:
   * most of what is written is words, and nothing is worked out anew for them.
   */
  private saysTheSame(changes: readonly V[], isMeant: (kind: string) => boolean): boolean {
    return changes
      .filter(one => isMeant(one.kind))
      .every(({ kind, key, position, body }) => {
        const now = this.get(kind, key)
        if (!now || body === null) return !now && body === null
        return now.position === position && (now.body === body || canonical(now.body) === canonical(body))
      })
  }
}
