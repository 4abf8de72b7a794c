/** A call to do something, with a link. */
import { z } from 'zod'
import { address, blockKind, words } from './block-kind'

export const call = blockKind({
  body: z.strictObject({
    text: words.optional(),
    label: words,
    href: address,
    /** Clicks on its link are noted in the activity. */ counted: z.boolean().optional(),
  }),
  shown: ({ id, title, body }, { base, href }) => ({
    kind: 'call',
    title,
    ...(body.text ? { text: body.text } : {}),
    label: body.label,
    // A counted link leads through a door of ours, but not in a walk, which counts for nobody.
    href: body.counted && !base ? `/go/${id}` : href(body.href),
  }),
})
