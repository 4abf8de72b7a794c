import type { Condition } from '../conditions/condition'
import type { Rulebook } from '../rulebook/rulebook'
import type { Site } from '../site/site'
import { SiteIndex } from '../site/site-index'
import { Holdings } from '../visitor/asker'
import { GateIndex } from './chain'

/** What the rules are read over: a rulebook and a site, indexed. */
export class RuleSet {
  readonly index: SiteIndex
  readonly gates: GateIndex
  readonly holdings: Holdings
  readonly audiences: ReadonlyMap<string, Condition>

  constructor(
    readonly rulebook: Rulebook,
    site: Site | SiteIndex,
  ) {
    this.index = site instanceof SiteIndex ? site : new SiteIndex(site)
    this.gates = new GateIndex(rulebook)
    this.holdings = new Holdings(rulebook, this.index)
    this.audiences = new Map((rulebook.audiences ?? []).map(audience => [audience.id, audience.is]))
  }
}
