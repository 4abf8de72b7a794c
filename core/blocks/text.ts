/** Words, written in Markdown. */
import { z } from 'zod'
import { blockKind } from './block-kind'

export const text = blockKind({
  body: z.strictObject({ markdown: z.string().max(200_000) }),
  text: 'markdown',
  shown: ({ title, body }, { text }) => ({ kind: 'text', title, html: text(body.markdown) }),
})
