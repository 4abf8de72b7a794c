/** A part of a member's home. With a link it follows the right of the page it leads to. */
import { z } from 'zod'
import { weavePalettes, weavePatterns } from '../kinds/weave-patterns'
import { pictureFileName, shownPicture } from '../pictures/picture-file'
import { blockKind, id, words } from './block-kind'
import { panelSorts } from './panel-sorts'

export const panel = blockKind({
  body: z.strictObject({
    shows: z.enum(panelSorts),
    text: words.optional(),
    page: id.optional(),
    label: words.optional(),
    /** A picture at its head: a stored one, or else a woven pattern. */ file: pictureFileName.optional(),
    pattern: z.enum(weavePatterns).optional(),
    palette: z.enum(weavePalettes).optional(),
  }),
  pictures: ['file'],
  outline: ({ label }) => (label ? { label } : {}),
  shown: async ({ title, body: { shows, text, page: target, label, file, pattern, palette } }, tools) => {
    const page = target === undefined ? undefined : tools.index.get('page', target)
    if (target !== undefined && (!page || !tools.opens({ kind: 'page', id: target }))) return []
    const panel = await tools.panel(shows)
    if (!panel) return []
    const picture = file
      ? shownPicture(file, tools.picture(file))
      : pattern && { pattern, palette: palette ?? 'fleece' }
    return {
      kind: 'panel',
      title,
      ...(text ? { text } : {}),
      ...(picture ? { picture } : {}),
      ...(page ? { link: { label: label ?? page.title ?? page.id, href: tools.href(page.path) } } : {}),
      panel,
    }
  },
})
