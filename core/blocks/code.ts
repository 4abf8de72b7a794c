/** The code of an offer, for those the offer is for: shown as it is, or one of their own on asking. Others never learn that it is there. */
import { z } from 'zod'
import { blockKind, id, words } from './block-kind'

export const code = blockKind({
  body: z.strictObject({ text: words.optional(), offer: id }),
  shown: ({ title, body: { text, offer } }, tools) => {
    const shown = tools.code(offer)
    if (!shown) return []
    return {
      kind: 'code',
      title,
      ...(text ? { text } : {}),
      offer,
      ...(shown.code === undefined ? {} : { code: shown.code }),
      ...(shown.given ? { given: true as const } : {}),
      // In a walk nobody's codes are taken.
      ...(tools.base ? {} : { action: codesAddress }),
    }
  },
})

/** Where codes are given, kept and let go. */
export const codesAddress = '/account/codes'
