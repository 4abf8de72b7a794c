/** A line to search the site by; what is found stands on a page of its own. */
import { z } from 'zod'
import { searchAddress } from '../site/own-addresses'
import { blockKind } from './block-kind'

export const search = blockKind({
  body: z.strictObject({}),
  shown: ({ title }, { href }) => ({ kind: 'search', title, action: href(searchAddress) }),
})
