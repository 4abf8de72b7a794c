/** Codes of offers on pages: where one is given, and which a page shows to whom. */
import { codesAddress } from '../../blocks/code'
import type { CompiledDecider } from '../../gates/compiled-decider'
import { foldedCode } from '../../visitor/given-code'
import { everyone } from '../../shop/offer'
import { wayBack } from '../../site/way-back'

/** Where a code is given, with the way back; in a walk nobody gives one, and where no offer takes one there is no such place. */
export function codesPlace({ rules }: CompiledDecider, path: string, base: string): string | undefined {
  const takesCodes = (rules.rulebook.offers ?? []).some(({ code, active }) => code !== undefined && active !== false)
  return takesCodes && !base ? `${codesAddress}?back=${wayBack(path)}` : undefined
}

/** The code of an offer, for whoever the offer is for; null for others. Without `code`, theirs is one of its own. */
export function codeShown(decider: CompiledDecider, id: string): { code?: string; given: boolean } | null {
  const offer = decider.rules.rulebook.offers?.find(one => one.id === id)
  if (offer?.code === undefined || offer.active === false) return null
  if (!decider.admits(offer.for ?? everyone)) return null
  return {
    given: decider.gaveCode(id, foldedCode(offer.code)),
    ...(offer.codes === 'single' ? {} : { code: offer.code }),
  }
}
