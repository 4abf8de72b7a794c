/** A picture: a stored one, one from an address, or a pattern that is woven. */
import { z } from 'zod'
import { weavePalettes, weavePatterns } from '../kinds/weave-patterns'
import { pictureFileName, shownPicture } from '../pictures/picture-file'
import { address, blockKind, words } from './block-kind'

export const picture = blockKind({
  body: z.strictObject({
    pattern: z.enum(weavePatterns).optional(),
    palette: z.enum(weavePalettes).optional(),
    file: pictureFileName.optional(),
    src: address.optional(),
    alt: words,
    caption: words.optional(),
  }),
  outline: () => ({ picture: true }),
  pictures: ['file'],
  words: ({ alt, caption }) => [alt, caption],
  shown: ({ body: { alt, pattern, palette, file, src, caption } }, { picture }) => ({
    kind: 'picture',
    alt,
    ...(file ? shownPicture(file, picture(file)) : src ? { src } : woven({ pattern, palette })),
    ...(caption ? { caption } : {}),
  }),
})

const woven = ({ pattern, palette }: { pattern?: string | undefined; palette?: string | undefined }) => ({
  ...(pattern ? { pattern } : {}),
  ...(palette ? { palette } : {}),
})
