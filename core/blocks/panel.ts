/** A part of a member's home. With a link it follows the right of the page it leads to. */
import { z } from 'zod'
import { blockKind, id, words } from './block-kind'
import { panelSorts } from './panel-sorts'

export const panel = blockKind({
  body: z.strictObject({
    shows: z.enum(panelSorts),
    text: words.optional(),
    page: id.optional(),
    label: words.optional(),
  }),
  outline: ({ label }) => (label ? { label } : {}),
  shown: async ({ title, body: { shows, text, page: target, label } }, tools) => {
    const page = target === undefined ? undefined : tools.index.get('page', target)
    if (target !== undefined && (!page || !tools.opens({ kind: 'page', id: target }))) return []
    const panel = await tools.panel(shows)
    if (!panel) return []
    return {
      kind: 'panel',
      title,
      ...(text ? { text } : {}),
      ...(page ? { link: { label: label ?? page.title ?? page.id, href: tools.href(page.path) } } : {}),
      panel,
    }
  },
})
