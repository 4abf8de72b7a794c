/**
 * Arrangements of a part: what is asked for one, from its words and a short brief, and what comes back. Whoever arranges
 * is behind this shape; what they answer is checked by it like anything else that comes from outside.
 */
import { z } from 'zod'
import { call } from '../blocks/call'
import { panels } from '../blocks/panels'
import { picture } from '../blocks/picture'
import { signIn } from '../blocks/sign-in'
import { text } from '../blocks/text'
import { quotable } from './quotable'

const title = z.string().max(200)
export const mostOfBrief = 1000
const mostArranged = 12

/** What the arrangement is for: the words as they are told, or a teaser for those who do not get them. */
export const arrangeAsk = z.strictObject({
  brief: z.string().trim().max(mostOfBrief),
  title: title.default(''),
  /** Texts of the part, in Markdown, in their order. */
  texts: z.array(z.string().max(200_000)).max(60).default([]),
  calls: z
    .array(z.strictObject({ label: z.string().max(500), href: z.string().max(500) }))
    .max(20)
    .default([]),
  pictures: z.array(picture.body).max(20).default([]),
  /** Pages that may be led to: those the brief names are. */
  pages: z
    .array(z.strictObject({ title, path: z.string().max(300) }))
    .max(20)
    .default([]),
  teaser: z.boolean().default(false),
  /** Of a teaser: what it may quote of the part. */
  quote: z.enum(['nothing', 'heading', 'first sentence']).default('nothing'),
})
export type ArrangeAsk = z.infer<typeof arrangeAsk>

const leaf = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('text'), title: title.optional(), body: text.body }),
  z.strictObject({ kind: z.literal('call'), title: title.optional(), body: call.body }),
  z.strictObject({ kind: z.literal('picture'), title: title.optional(), body: picture.body }),
  z.strictObject({ kind: z.literal('signIn'), title: title.optional(), body: signIn.body }),
])
export type ArrangedLeaf = z.infer<typeof leaf>
const arranged = z.union([
  leaf,
  z.strictObject({
    kind: z.literal('panels'),
    title: title.optional(),
    body: panels.body,
    parts: z.array(leaf).min(1).max(mostArranged),
  }),
])
export type Arranged = z.infer<typeof arranged>

const arrangement = z.strictObject({
  /** What is particular about it, in a few words. */ says: z.string().min(1).max(120),
  parts: z.array(arranged).min(1).max(mostArranged),
})
export type Arrangement = z.infer<typeof arrangement>
export const arrangements = z.array(arrangement).length(3)

/** Whether a brief names a page, by its title or its address. */
export function namesPage(brief: string, { title: called, path }: { title: string; path: string }): boolean {
  const words = brief.toLowerCase()
  return (called !== '' && words.includes(called.toLowerCase())) || (path !== '/' && words.includes(path))
}

/** What an arranger is told: of a teaser no more of the part than it may quote. */
export function toldToArranger(ask: ArrangeAsk): ArrangeAsk {
  if (!ask.teaser) return ask
  const first = ask.quote === 'first sentence' ? quotable(ask.texts) : ''
  return {
    ...ask,
    title: ask.quote === 'nothing' ? '' : ask.title,
    texts: first ? [first] : [],
    calls: [],
    pictures: [],
  }
}
