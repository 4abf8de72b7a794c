/** Where somebody goes after signing in or out, by the live landings. */
import { landingOf } from '../../../core/landings/landing'
import type { LandingMoment } from '../../../core/rulebook/rulebook'
import { isSitePath } from '../../../core/shapes'
import { rightBit } from '../../../core/gates/verdict'
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import { isStaff } from '../staff/authorise'
import { isOwnAddress } from '../../../core/site/own-addresses'

/** `back` is the address the person was refused on the way in. Default: the front page. */
export function landingPlace(decider: CompiledDecider, on: LandingMoment, back?: string): string {
  const { rules } = decider
  const wanted = back !== undefined && isSitePath(back) ? back : undefined
  if (wanted?.match(/^\/loft(\/|$)/)) {
    if (isStaff(decider)) return wanted
  } else if (wanted && isOwnAddress(wanted.split(/[?#]/)[0]!)) return wanted
  const refused = wanted === undefined ? undefined : rules.index.at(wanted.split(/[?#]/)[0]!)
  const { to } = landingOf(rules.rulebook.landings ?? [], {
    on,
    asker: decider.asker,
    admits: condition => decider.admits(condition),
    opens: resource => (decider.bits(resource) & rightBit.open) !== 0,
    leadsTo: rules.rulebook.settings?.leadsTo,
    ...(refused ? { refused: { resource: refused, path: wanted } } : {}),
  })
  return to ?? '/'
}
