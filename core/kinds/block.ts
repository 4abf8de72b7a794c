/** A part of a page: it stands in something that has one, in another block or in the site's frame, and opens only where that does. */
import { z } from 'zod'
import { key } from '../shapes'
import { kindOf, titled, written } from './kind'
import type { Lookup, Naming } from './kind'

/** What stands on every page; and the shelf, which shows nowhere itself: parts that are used in many places stand there. */
export const frameParts = ['header', 'banner', 'footer', 'shelf'] as const
export type FramePart = (typeof frameParts)[number]
/** Kinds of thing a block can stand in. */
const blockPlaces = ['page', 'post', 'category', 'product', 'block'] as const
export type BlockPlace = (typeof blockPlaces)[number]
type InOne<K extends string> = K extends string ? Record<K, string> : never
/** Where a block stands. */
export type Standing = InOne<BlockPlace> | { frame: FramePart }
/** The shape of that, with ids of a shape of their own. */
export const standingOf = (id: z.ZodType<string>, problem?: string) =>
  z.union(
    [
      ...blockPlaces.map(place => z.strictObject({ [place]: id })),
      z.strictObject({ frame: z.enum(frameParts) }),
    ] as unknown as [z.ZodType<Standing>, z.ZodType<Standing>],
    problem,
  )
const standing = standingOf(key)

/** The looks a part can have for some, out of the site's own. */
export const accents = ['tint', 'frame', 'bar'] as const
export type Accent = (typeof accents)[number]

const shape = z.strictObject({
  ...titled,
  ...written,
  in: standing,
  oneOf: z.boolean().optional(),
  kind: z.string().optional(),
  /** A part of the shelf that is shown here, with its own gates. */
  shares: key.optional(),
  /** Another look for some of those who get it; for all of them where nobody is named. `for`: a condition. */
  accent: z.strictObject({ look: z.enum(accents), for: z.record(z.string(), z.unknown()).optional() }).optional(),
})
export type Block = z.infer<typeof shape>

/** Data with longer nesting is none; also ends rings. */
const deepest = 100

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
    const [kind, id] = Object.entries(place)[0] as [string, string]
    return [
      ...(kind === 'frame' ? [] : [{ at: ['in', kind], kind, id, within: true }]),
      ...(shares === undefined ? [] : [{ at: ['shares'], kind: 'block', id: shares, within: false }]),
    ]
  },
  standsIn: ({ in: place }) => {
    if ('frame' in place) return 'open'
    const [kind, id] = Object.entries(place)[0] as [string, string]
    return { kind, id }
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
