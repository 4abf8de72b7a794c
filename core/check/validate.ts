/** Finds everything wrong in a rulebook: its shape, then what its ids lead to. */
import type { z } from 'zod'
import { issue } from '../errors'
import type { Issue, IssueCode, issueCodes } from '../errors'
import { pointer } from '../pointer'
import type { Path } from '../pointer'
import { SiteIndex } from '../site/site-index'
import type { Site } from '../site/site'
import { opensRings } from './opens-rings'
import { checkReferences } from './references'
import { rulebookSchema } from '../rulebook/rulebook'
import type { Rulebook } from '../rulebook/rulebook'
import { isObject } from '../shapes'

/** Turns zod's issues into the catalogue's, each at the place engine rules name. */
export function issuesOf(found: z.core.$ZodIssue[], base: Path = []): Issue[] {
  return found.flatMap(one => {
    const path = [...base, ...(one.path as (string | number)[])]
    if (one.code === 'unrecognized_keys')
      return one.keys.map(key => issue(pointer([...path, key]), 'unknown-key', undefined, key))
    if (one.code === 'custom' && one.params?.code)
      return [
        issue(pointer(path), one.params.code as IssueCode, one.params.detail as string | undefined, brief(one.input)),
      ]
    if (one.code === 'invalid_key' || one.code === 'invalid_element') return [issue(pointer(path), 'bad-value')]
    if (one.code === 'too_small' && one.origin === 'array') return [issue(pointer(path), 'empty-list')]
    if (one.code === 'invalid_type' && one.input === undefined)
      return [issue(pointer(path), 'missing-key', one.message)]
    return [issue(pointer(path), 'bad-value', one.message, brief(one.input))]
  })
}

const brief = (value: unknown) =>
  value === null || ['string', 'number', 'boolean'].includes(typeof value) ? value : undefined

/**
 * Everything wrong with `document` as a rulebook for `site`; empty when nothing is.
 * Each issue names its place, its code (`issueCodes`) and, where it helps, what was found.
 * `sound`: entries whose shape was right before, for callers that never change one in place; those that are, are added.
 */
export function validateRulebook(document: unknown, site: Site | SiteIndex, sound?: WeakSet<object>): Issue[] {
  if (!isObject(document)) return [issue('', 'format', 'A JSON object {"bravik":"rulebook/1", …} is expected.')]
  const shapes = sound && isSound(document, sound) ? [] : shapesOf(document)
  const index = site instanceof SiteIndex ? site : new SiteIndex(site)
  const all = [...shapes, ...duplicates(document), ...checkReferences(document, index)]
  if (shapes.length === 0) all.push(...opensRings(document as unknown as Rulebook, index))
  return firstAtEachPlace(all)
}

function shapesOf(document: Record<string, unknown>): Issue[] {
  const result = rulebookSchema.safeParse(document, { reportInput: true })
  return result.success ? [] : issuesOf(result.error.issues)
}

/** No entry's shape depends on another's: those known to be right need not be looked at again. */
function isSound(document: Record<string, unknown>, sound: WeakSet<object>): boolean {
  const fresh: object[] = []
  const rest = Object.entries(document).map(([key, list]): [string, unknown] => [
    key,
    Array.isArray(list) ? list.filter(entry => !(isObject(entry) && sound.has(entry))) : list,
  ])
  for (const [, list] of rest) if (Array.isArray(list)) fresh.push(...list.filter(isObject))
  if (!rulebookSchema.safeParse(Object.fromEntries(rest)).success) return false
  for (const entry of fresh) sound.add(entry)
  return true
}

function firstAtEachPlace(all: Issue[]): Issue[] {
  const seen = new Map<string, Issue>()
  for (const one of all) if (!seen.has(one.at)) seen.set(one.at, one)
  return [...seen.values()]
}

const lists: [Path, 'rank'?][] = [
  [['levels'], 'rank'],
  [['roles']],
  [['permissions']],
  [['facts']],
  [['audiences']],
  [['gates']],
  [['offers']],
  [['deliveries']],
  [['landings']],
  [['tiers']],
  [['tax', 'taxes']],
  [['tax', 'rates']],
  [['tax', 'exceptions']],
  [['tax', 'goods']],
  [['tax', 'shown']],
]

function duplicates(document: Record<string, unknown>): Issue[] {
  return lists.flatMap(([path, alsoUnique]) => {
    const list = path.reduce<unknown>((node, key) => (isObject(node) ? node[key] : undefined), document)
    if (!Array.isArray(list)) return []
    return [
      ...repeats(list, path, 'id', 'duplicate-id'),
      ...(alsoUnique ? repeats(list, path, alsoUnique, 'duplicate-rank') : []),
    ]
  })
}

function repeats(list: unknown[], path: Path, key: string, code: keyof typeof issueCodes): Issue[] {
  const seen = new Set<unknown>()
  return list.flatMap((entry, i) => {
    const value = isObject(entry) ? entry[key] : undefined
    if (value === undefined) return []
    if (seen.has(value)) return [issue(pointer([...path, i, key]), code, undefined, value)]
    seen.add(value)
    return []
  })
}
