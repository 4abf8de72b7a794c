/** A picture: one from an address, or a pattern that is woven. */
import { z } from 'zod'
import { weavePalettes, weavePatterns } from '../kinds/weave-patterns'
import { address, blockKind, words } from './block-kind'

export const picture = blockKind({
  body: z.strictObject({
    pattern: z.enum(weavePatterns).optional(),
    palette: z.enum(weavePalettes).optional(),
    src: address.optional(),
    alt: words,
    caption: words.optional(),
  }),
  outline: () => ({ picture: true }),
  shown: ({ body: { alt, pattern, palette, src, caption } }) => ({
    kind: 'picture',
    alt,
    ...(pattern ? { pattern } : {}),
    ...(palette ? { palette } : {}),
    ...(src ? { src } : {}),
    ...(caption ? { caption } : {}),
  }),
})
