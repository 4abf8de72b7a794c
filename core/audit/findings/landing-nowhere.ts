import { finding } from './finding'
import { landedAt } from './landed'
import type { LandedFacts } from './landed'

/** A landing leads somebody to an address where nothing stands. */
export const landingNowhere = finding<LandedFacts>(ask => landedAt('missing', ask))
