/** Ways of delivery as sentences, which `readDelivery` of `read-delivery.ts` understands again. */
import type { Delivery } from '../rulebook/shop-rules'
import type { Place } from '../site/place'
import { quoted } from './lexicon'
import type { Lexicon } from './lexicon'
import { countryName } from './place-name'
import { plainMoney } from './say-offer'
import { sayText } from './say'
import { countries, deliveryNameEnds } from './words'

export interface SaidDelivery {
  name: string
  /** “to Ireland, Spain postcodes 35, 38”; “anywhere”. */ to: string
  /** “costs 5.00”; “up to 5 kg 7.80”, “heavier 52.00”. */ steps: string[]
  free?: string
  who?: string
  note?: string
}

/** A name that a sentence can begin with as it is: none of its words begins what comes after. */
const isBareName = (name: string) =>
  /^[\p{Lu}\p{N}][\p{L}\p{N}'’&-]*( [\p{L}\p{N}'’&-]*[\p{L}\p{N}])*$/u.test(name) &&
  !/^switched off/i.test(name) &&
  name.split(' ').every((word, i) => !deliveryNameEnds.has(word.toLowerCase()) && !(i && /^\d/.test(word)))

/** A beginning of postcodes that reads as another thing, such as a word of what follows, is quoted. */
const sayPostcode = (code: string) =>
  /^[A-Z\d]{1,10}$/i.test(code) &&
  !/^\d+kg?$/i.test(code) &&
  !deliveryNameEnds.has(code.toLowerCase()) &&
  !countries().some(one => one.name.toLowerCase() === code.toLowerCase())
    ? code
    : quoted(code)

const sayPlace = ({ country, region, startsWith }: Place): string =>
  [
    region ?? (country === undefined ? '' : countryName(country)),
    startsWith?.length ? `postcodes ${startsWith.map(sayPostcode).join(', ')}` : '',
  ]
    .filter(Boolean)
    .join(' ') || 'anywhere'

const sayKilos = (grams: number) => String(grams / 1000)

export function sayDeliveryParts(way: Omit<Delivery, 'id'> & { id?: string }, lexicon: Lexicon): SaidDelivery {
  const { id = '', name = id, to, cost, freeFrom, for: who, note } = way
  const money = (minor: number) => plainMoney(minor, lexicon)
  const flat = (minor: number) => (minor ? `costs ${money(minor)}` : 'costs nothing')
  return {
    name,
    to: to ? `to ${to.map(sayPlace).join(', ')}` : 'anywhere',
    steps:
      'flat' in cost
        ? [flat(cost.flat)]
        : cost.byWeight.map(step =>
            step.upTo === undefined
              ? `heavier ${money(step.cost)}`
              : `up to ${sayKilos(step.upTo)} kg ${money(step.cost)}`,
          ),
    ...(freeFrom === undefined ? {} : { free: `free from ${money(freeFrom)}` }),
    ...(who === undefined || 'everyone' in who ? {} : { who: `for ${sayText(who, lexicon)}` }),
    ...(note ? { note: `saying ${quoted(note)}` } : {}),
  }
}

/** “By post to Ireland, costs 5.00, free from 60.00, for members”; costs are without tax. */
export function sayDelivery(way: Omit<Delivery, 'id'> & { id?: string }, lexicon: Lexicon): string {
  const { name, to, steps, free, who, note } = sayDeliveryParts(way, lexicon)
  const first = [way.active === false ? 'switched off:' : '', isBareName(name) ? name : quoted(name), to]
  return [first.filter(Boolean).join(' '), ...steps, free, who, note].filter(Boolean).join(', ')
}
