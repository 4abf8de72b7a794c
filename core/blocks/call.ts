/** A call to do something, with a link, which follows the right of what it leads to. */
import { z } from 'zod'
import type { SiteIndex } from '../site/site-index'
import type { Resource } from '../kinds/kinds'
import { whenRefused } from '../kinds/menu-item'
import { address, blockKind, words } from './block-kind'

const body = z.strictObject({
  text: words.optional(),
  label: words,
  href: address,
  /** Clicks on its link are noted in the activity. */ counted: z.boolean().optional(),
  /** For whom where it leads does not open. Default: the call is not there. */ whenRefused: whenRefused.optional(),
})

/** Whether a link may be given: an address elsewhere, one the application answers, or one whose thing opens. */
export function mayLead(href: string, index: SiteIndex, opens: (thing: Resource) => boolean): boolean {
  const thing = href.startsWith('/') ? index.at(href.split(/[?#]/)[0]!) : undefined
  return !thing || opens(thing)
}

export const call = blockKind({
  body,
  outline: ({ label }) => ({ label }),
  plain: ({ text }) => text,
  shown: ({ id, title, body }, { base, href, index, opens }) => {
    const leads = mayLead(body.href, index, opens)
    const refused = leads ? 'show' : (body.whenRefused ?? 'hide')
    if (refused === 'hide') return []
    return {
      kind: 'call',
      title,
      ...(body.text ? { text: body.text } : {}),
      label: body.label,
      // A counted link leads through a door of ours, but not in a walk, which counts for nobody.
      ...(refused === 'locked' ? {} : { href: body.counted && !base ? `/go/${id}` : href(body.href) }),
    }
  },
})
