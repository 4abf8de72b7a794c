/** A part of a member's home. With a link it follows the right of the page it leads to. */
import { z } from 'zod'
import { weavePalettes, weavePatterns } from '../kinds/weave-patterns'
import { pictureFileName, shownPicture } from '../pictures/picture-file'
import { blockKind, id, words } from './block-kind'
import { panelSorts } from './panel-sorts'

const body = z.strictObject({
  shows: z.enum(panelSorts),
  text: words.optional(),
  page: id.optional(),
  label: words.optional(),
  /** A picture at its head: a stored one, or else a woven pattern. */ file: pictureFileName.optional(),
  pattern: z.enum(weavePatterns).optional(),
  palette: z.enum(weavePalettes).optional(),
})

/** What stands at its head. */
const headOf = ({ file, pattern, palette }: z.infer<typeof body>, picture: (name: string) => string) =>
  file ? shownPicture(file, picture(file)) : pattern && { pattern, palette: palette ?? 'fleece' }

export const panel = blockKind({
  body,
  pictures: ['file'],
  outline: ({ label, file, pattern }) => ({
    ...(label ? { label } : {}),
    ...((file ?? pattern) ? { picture: true as const } : {}),
  }),
  plain: ({ text }) => text,
  // It says nothing that its heading does not.
  sight: (body, picture) => {
    const head = headOf(body, picture)
    return head && { alt: '', ...head }
  },
  shown: async ({ title, body }, tools) => {
    const { shows, text, page: target, label } = body
    const page = target === undefined ? undefined : tools.index.get('page', target)
    if (target !== undefined && (!page || !tools.opens({ kind: 'page', id: target }))) return []
    const panel = await tools.panel(shows)
    if (!panel) return []
    const picture = headOf(body, name => tools.picture(name))
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
