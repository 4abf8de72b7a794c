import { finding } from './finding'
import { landedAt } from './landed'
import type { LandedFacts } from './landed'

/** A landing leads somebody to a thing that does not open for them. */
export const landingShut = finding<LandedFacts>(ask => landedAt('shut', ask))
