import { isOwnAddress } from '~~/core/site/own-addresses'
import type { SiteIndex } from '~~/core/site/site-index'

/** An address nothing has: the wanted one, or the first of it with a number behind. */
export function freePath(wanted: string, index: SiteIndex): string {
  for (let n = 1; ; n++) {
    const path = n === 1 ? wanted : `${wanted}-${n}`
    if (!index.at(path) && !isOwnAddress(path)) return path
  }
}
