/** The kinds of block a page is made of, and what each holds. */
import { z } from 'zod'
import { weavePalettes, weavePatterns } from '../../core/kinds/weave-patterns'
import { isSitePath } from '../../core/shapes'

const address = z
  .string()
  .refine(
    value => isSitePath(value) || /^https?:\/\/\S+$/i.test(value),
    'A page of this site or a web address is expected.',
  )
const words = z.string().max(500)

/** What a panel can show of the person who looks at it; `words` shows its text only. */
export const panelSorts = [
  'words',
  'levels',
  'firm',
  'yours',
  'soon',
  'up',
  'profile',
  'sessions',
  'payments',
  'applications',
] as const
export type PanelSort = (typeof panelSorts)[number]

export const blockBodies = {
  text: z.strictObject({ markdown: z.string().max(200_000) }),
  picture: z.strictObject({
    pattern: z.enum(weavePatterns).optional(),
    palette: z.enum(weavePalettes).optional(),
    src: address.optional(),
    alt: words,
    caption: words.optional(),
  }),
  call: z.strictObject({
    text: words.optional(),
    label: words,
    href: address,
    /** Clicks on its link are noted in the activity. */ counted: z.boolean().optional(),
  }),
  group: z.strictObject({}),
  /** A group whose blocks stand side by side, as many as fit. */
  panels: z.strictObject({}),
  /** A part of a member's home. With a link it follows the right of the page it leads to. */
  panel: z.strictObject({
    shows: z.enum(panelSorts),
    text: words.optional(),
    page: z.string().max(80).optional(),
    label: words.optional(),
  }),
  account: z.strictObject({}),
  /** What lies in a topic, a folder or a category, or everything of a kind, as far as it may be found. */
  list: z.strictObject({
    of: z.union([
      z.strictObject({ topic: z.string().max(80) }),
      z.strictObject({ folder: z.string().max(80) }),
      z.strictObject({ category: z.string().max(80) }),
      z.strictObject({ page: z.string().max(80) }),
      z.strictObject({ kind: z.string().max(20) }),
    ]),
    most: z.int().min(1).max(500).optional(),
  }),
} as const
export type BlockKind = keyof typeof blockBodies
export type BlockBody<K extends BlockKind> = z.infer<(typeof blockBodies)[K]>
export const blockKinds = Object.keys(blockBodies) as BlockKind[]

/** Kinds other blocks stand in. */
export const holdsBlocks = (kind: BlockKind) => kind === 'group' || kind === 'panels'
