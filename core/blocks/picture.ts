/** A picture: a stored one, one from an address, or a pattern that is woven. */
import { z } from 'zod'
import { weavePalettes, weavePatterns } from '../kinds/weave-patterns'
import { pictureFileName, shownPicture } from '../pictures/picture-file'
import type { Sight } from '../view/view'
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
  sight: (body, picture) => sightOf(body, picture),
  shown: ({ body }, { picture }) => ({
    kind: 'picture',
    ...sightOf(body, picture),
    ...(body.caption ? { caption: body.caption } : {}),
  }),
})

interface Body {
  pattern?: string | undefined
  palette?: string | undefined
  file?: string | undefined
  src?: string | undefined
  alt: string
}
/** What there is to see. */
function sightOf({ alt, pattern, palette, file, src }: Body, picture: (name: string) => string): Sight {
  return { alt, ...(file ? shownPicture(file, picture(file)) : src ? { src } : woven({ pattern, palette })) }
}

const woven = ({ pattern, palette }: { pattern?: string | undefined; palette?: string | undefined }) => ({
  ...(pattern ? { pattern } : {}),
  ...(palette ? { palette } : {}),
})
