/** Words, written in Markdown. */
import { z } from 'zod'
import { blockKind } from './block-kind'

export const text = blockKind({
  body: z.strictObject({ markdown: z.string().max(200_000) }),
  shown: ({ title, body }, { markdown }) => ({ kind: 'text', title, html: markdown(body.markdown) }),
})
