/** What the offers that apply come to, for so many pieces: the best alone, or the stack. */
import type { CompiledOffer } from './compiled-offers'
import type { Outcome, TrailStep } from './price-trail'
import { reducedPrice } from './reduction'
import type { Reduction } from './reduction'

/** Of the current price, each single offer and the stack the lowest amount; -1 for no offer, `best.length` for the stack. */
function winner({ best, stack }: Picked, regular: number, current: number, quantity: number): number {
  let amount = current * quantity
  let won = -1
  for (let i = 0; i < best.length; i++) {
    const { offer, reduction } = best[i]!
    if (offer.base === 'unlessOnSale' && current < regular) continue
    const made = reducedPrice(offer.base === 'regular' ? regular : current, reduction)
    const all = offer.bonus ? amountOf(offer, made, current, quantity) : made * quantity
    if (all >= amount) continue
    amount = all
    won = i
  }
  return stack.length && stackedUnit(stack, current) * quantity < amount ? best.length : won
}

function stackedUnit(stack: readonly Applying[], current: number): number {
  let unit = current
  for (let i = 0; i < stack.length; i++) unit = reducedPrice(unit, stack[i]!.reduction)
  return unit
}

/** What one piece comes to of what was picked: a sale is always lower, so that what is current tells whether one runs. */
export function pickedUnit(picked: Picked, regular: number, current: number, quantity: number): number {
  const { best, stack } = picked
  if (best.length === 0 && stack.length === 0) return current
  if (quantity === 1) return lowestUnit(picked, regular, current)
  const won = winner(picked, regular, current, quantity)
  if (won < 0) return current
  if (won === best.length) return stackedUnit(stack, current)
  const { offer, reduction } = best[won]!
  return offer.bonus ? current : reducedPrice(offer.base === 'regular' ? regular : current, reduction)
}

/** Of one piece, whose price is the amount: which offer made it does not matter. */
function lowestUnit({ best, stack }: Picked, regular: number, current: number): number {
  let unit = current
  for (let i = 0; i < best.length; i++) {
    const { offer, reduction } = best[i]!
    if (offer.bonus || (offer.base === 'unlessOnSale' && current < regular)) continue
    const made = reducedPrice(offer.base === 'regular' ? regular : current, reduction)
    if (made < unit) unit = made
  }
  if (!stack.length) return unit
  const stacked = stackedUnit(stack, current)
  return stacked < unit ? stacked : unit
}

export function winners(picked: Picked, regular: number, current: number, quantity: number): readonly CompiledOffer[] {
  const won = winner(picked, regular, current, quantity)
  if (won < 0) return none
  return won === picked.best.length ? picked.stack.map(({ offer }) => offer) : [picked.best[won]!.offer]
}

/** Made whole at once, in one of few forms: very many are made. */
export function stepOf(
  { id, by }: CompiledOffer,
  outcome: Outcome,
  { measure, at, made, all }: { measure: number; at: number; made: number; all: number },
): TrailStep {
  if (by === 'each') return { offer: id, outcome, band: at, unit: made, amount: all }
  if (at < 0) return { offer: id, outcome, measure }
  return { offer: id, outcome, measure, band: at, unit: made, amount: all }
}

/** With a bonus, of every full `buy + get` units `get` are at its unit and the rest at the current price. */
export function amountOf({ bonus }: CompiledOffer, unit: number, current: number, quantity: number): number {
  if (bonus === undefined) return unit * quantity
  const given = Math.floor(quantity / (bonus.buy + bonus.get)) * bonus.get
  return unit * given + current * (quantity - given)
}

/** An offer that applies to a piece of whatever is of a weave, with the reduction of its band. */
export interface Applying {
  offer: CompiledOffer
  reduction: Reduction
}

/** What a visitor gets of a weave at a quantity: `best` ones by order and id, and the stack. */
export interface Picked {
  best: readonly Applying[]
  stack: readonly Applying[]
}

const none: readonly CompiledOffer[] = []
