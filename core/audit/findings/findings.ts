/** Every finding. Adding one is a module and a line here; then the compiler names every other list that lacks it. */
import { bandHole } from './band-hole'
import { categoriesDiffer } from './categories-differ'
import type { FindingAsk, FindingModule, Found } from './finding'
import { freeGoods } from './free-goods'
import { goodsUnseen } from './goods-unseen'
import { hiddenTold } from './hidden-told'
import { landingNowhere } from './landing-nowhere'
import { landingShut } from './landing-shut'
import { redirectLeadsBack } from './redirect-leads-back'
import { offerForNobody } from './offer-for-nobody'
import { offerNeverWins } from './offer-never-wins'
import { offersTie } from './offers-tie'
import { paysMore } from './pays-more'
import { setPriceAndSale } from './set-price-and-sale'
import { stockWithoutPrice } from './stock-without-price'
import { deliveryTaxedOtherwise } from './delivery-taxed-otherwise'
import { placeWithoutRate } from './place-without-rate'
import { privateWithoutTax } from './private-without-tax'
import { rateUnchanged } from './rate-unchanged'
import { roundingDiffers } from './rounding-differs'
import { termsChangeNothing } from './terms-change-nothing'
import { termsForNobody } from './terms-for-nobody'
import { underCost } from './under-cost'

const findingModules = {
  'hidden-told': hiddenTold,
  'redirect-leads-back': redirectLeadsBack,
  'landing-nowhere': landingNowhere,
  'landing-shut': landingShut,
  'pays-more': paysMore,
  'under-cost': underCost,
  'free-goods': freeGoods,
  'goods-unseen': goodsUnseen,
  'categories-differ': categoriesDiffer,
  'offer-for-nobody': offerForNobody,
  'offer-never-wins': offerNeverWins,
  'offers-tie': offersTie,
  'band-hole': bandHole,
  'set-price-and-sale': setPriceAndSale,
  'stock-without-price': stockWithoutPrice,
  'delivery-taxed-otherwise': deliveryTaxedOtherwise,
  'place-without-rate': placeWithoutRate,
  'private-without-tax': privateWithoutTax,
  'rate-unchanged': rateUnchanged,
  'rounding-differs': roundingDiffers,
  'terms-change-nothing': termsChangeNothing,
  'terms-for-nobody': termsForNobody,
} as const

export type FindingCode = keyof typeof findingModules
export type FactsOfFinding<C extends FindingCode> =
  (typeof findingModules)[C] extends FindingModule<infer F> ? F : never
export type Finding = { [C in FindingCode]: { code: C } & Found<FactsOfFinding<C>> }[FindingCode]

/** What is looked for together, where one works on it. */
export const findingGroups = {
  refused: ['hidden-told', 'redirect-leads-back'],
  landings: ['landing-nowhere', 'landing-shut'],
  prices: [
    'pays-more',
    'under-cost',
    'free-goods',
    'goods-unseen',
    'categories-differ',
    'offer-for-nobody',
    'offer-never-wins',
    'offers-tie',
    'band-hole',
    'set-price-and-sale',
    'stock-without-price',
  ],
  taxes: [
    'delivery-taxed-otherwise',
    'place-without-rate',
    'private-without-tax',
    'rate-unchanged',
    'rounding-differs',
    'terms-change-nothing',
    'terms-for-nobody',
  ],
} as const satisfies Record<string, readonly FindingCode[]>

/** All that is found, by code in the order of the list. `codes`: only these. */
export const findingsOf = (
  ask: FindingAsk,
  codes: readonly FindingCode[] = Object.keys(findingModules) as FindingCode[],
): Finding[] =>
  codes.flatMap(code => findingModules[code].find(ask).map(found => ({ code, ...found }) as unknown as Finding))
