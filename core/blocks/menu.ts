/** A menu where one stands: in the footer, or on a page. */
import { z } from 'zod'
import { blockKind, id } from './block-kind'

export const menu = blockKind({
  body: z.strictObject({ menu: id }),
  shown: ({ title, body }, tools) => {
    const items = tools.menu(body.menu)
    return items.length ? { kind: 'menu', title, items } : []
  },
})
