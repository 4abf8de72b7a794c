/** A part of a page: it stands in something that has one, in another block or in the site's frame, and opens only where that does. */
import { z } from 'zod'
import { key, oneOfKeys } from '../shapes'
import { isOwnLookName } from '../looks/own-looks'
import { kindOf, titled, written } from './kind'
import { knownKinds } from './known-kinds'
import type { Lookup, Naming } from './kind'

/** What stands on every page; and the shelf, which shows nowhere itself: parts that are used in many places stand there. */
export const frameParts = ['header', 'banner', 'footer', 'shelf'] as const
export type FramePart = (typeof frameParts)[number]
/** Kinds of thing a block can stand in. */
const blockPlaces = ['page', 'post', 'category', 'product', 'block'] as const
export type BlockPlace = (typeof blockPlaces)[number]
type InOne<K extends string> = K extends string ? Record<K, string> : never
/** The site's own pages, which no operator writes, by what they are for. */
export const ownShown = ['account', 'shop', 'search', 'entrance'] as const
export type OwnShown = (typeof ownShown)[number]
/** What a part of the frame can stand around, by its id. */
const aroundKinds = ['page', 'topic', 'category', 'folder', 'post', 'product'] as const
/** Around what a part of the frame stands: things of a kind, one thing and what lies in it, or pages of the site's own. */
export type AroundPlace =
  { kind: string } | { own: OwnShown } | (InOne<(typeof aroundKinds)[number]> & { below?: boolean })
/** The most places one part names. */
const mostAround = 100
/** In a part of the frame; `around`: default everything; `not`: of those, but these. */
export interface InFrame {
  frame: FramePart
  around?: AroundPlace[]
  not?: AroundPlace[]
}
/** Where a block stands. */
export type Standing = InOne<BlockPlace> | InFrame

const placesOf = (id: z.ZodType<string>) =>
  z
    .array(
      oneOfKeys<AroundPlace>(
        () => ({
          // Asked late: the list of kinds names this module.
          kind: z.enum(knownKinds() as [string, ...string[]]),
          own: z.enum(ownShown),
          ...Object.fromEntries(aroundKinds.map(kind => [kind, id])),
        }),
        place => (place === 'page' ? { below: z.boolean() } : ({} as Record<string, z.ZodType>)),
      ),
    )
    .min(1)
    .max(mostAround)
    .optional()

/** The shape of that, with ids of a shape of their own. */
export const standingOf = (id: z.ZodType<string>, problem?: string) =>
  z.union(
    [
      ...blockPlaces.map(place => z.strictObject({ [place]: id })),
      z.strictObject({ frame: z.enum(frameParts), around: placesOf(id), not: placesOf(id) }),
    ] as unknown as [z.ZodType<Standing>, z.ZodType<Standing>],
    problem,
  )

/** A block that stands in the frame: how. */
export const standingFrame = (place: Standing): InFrame | undefined => ('frame' in place ? place : undefined)
/** The kind and id of what a block stands in; of the frame which part of it. What is kept may list its keys in any order. */
export function standsAt(place: Standing): [kind: string, id: string] {
  if ('frame' in place) return ['frame', place.frame]
  return Object.entries(place)[0] as [string, string]
}
const standing = standingOf(key)

/** The looks a part can have for some, out of the site's own. */
export const accents = ['tint', 'frame', 'bar', 'faded'] as const
/** What a look of a part is called: one of these, or one of the site's own (looks/own-looks.ts). One that is gone looks like none. */
export const accentLook = z
  .string()
  .refine(
    look => (accents as readonly string[]).includes(look) || isOwnLookName(look),
    'No look of parts is called so.',
  )

const shape = z.strictObject({
  ...titled,
  ...written,
  in: standing,
  oneOf: z.boolean().optional(),
  kind: z.string().optional(),
  /** A part of the shelf that is shown here, with its own gates. */
  shares: key.optional(),
  /** Another look for some of those who get it; for all of them where nobody is named. `for`: a condition. */
  accent: z.strictObject({ look: accentLook, for: z.record(z.string(), z.unknown()).optional() }).optional(),
})
export type Block = z.infer<typeof shape>

/** Data with longer nesting is none; also ends rings. */
const deepest = 100

function aroundNames(place: InFrame): Naming[] {
  return (['around', 'not'] as const).flatMap(list =>
    (place[list] ?? []).flatMap((one, i) => {
      const [kind, id] = Object.entries(one).find(([key]) => key !== 'below')!
      return kind === 'kind' || kind === 'own'
        ? []
        : [{ at: ['in', list, i, kind], kind, id: String(id), within: false }]
    }),
  )
}

export const block = kindOf<Block>()({
  parts: {
    passages: 'body',
    broken: 'body',
    title: 'title',
    summary: 'summary',
    body: 'body',
    accent: 'body',
    in: 'place',
    oneOf: 'place',
    shares: 'body',
  },
  list: 'blocks',
  shape,
  rights: ['find', 'search', 'open'],
  names: ({ in: place, shares }): Naming[] => {
    const [kind, id] = standsAt(place)
    return [
      ...(kind === 'frame' ? aroundNames(place as InFrame) : [{ at: ['in', kind], kind, id, within: true }]),
      ...(shares === undefined ? [] : [{ at: ['shares'], kind: 'block', id: shares, within: false }]),
    ]
  },
  standsIn: ({ in: place }) => {
    const [kind, id] = standsAt(place)
    return kind === 'frame' ? 'open' : { kind, id }
  },
  around: (thing, look: Lookup) => {
    const around: string[] = []
    for (let at: Block | undefined = thing; at && 'block' in at.in && around.length < deepest;) {
      at = look.get('block', at.in.block) as Block | undefined
      if (at) around.unshift(at.id)
    }
    return around
  },
})
