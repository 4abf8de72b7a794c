/** Words, written in Markdown. */
import { z } from 'zod'
import { blockKind } from './block-kind'
import { renderMarkdown } from './markdown'

export const text = blockKind({
  body: z.strictObject({ markdown: z.string().max(200_000) }),
  shown: ({ title, body }, { base }) => ({ kind: 'text', title, html: renderMarkdown(body.markdown, base) }),
})
