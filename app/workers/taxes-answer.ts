/** What the core answers the console about taxes, live and in the draft. */
import { findingGroups, findingsOf } from '~~/core/audit/findings/findings'
import { receiptDifferences } from '~~/core/audit/receipt-differences'
import { taxBoard } from '~~/core/audit/tax-board'
import { taxImpact } from '~~/core/audit/tax-impact'
import { CompiledRules } from '~~/core/gates/compiled'
import { CompiledDecider } from '~~/core/gates/compiled-decider'
import { quoteBasket } from '~~/core/orders/basket-quote'
import type { Terms } from '~~/core/tax/terms'
import { withChanges } from './prices-answer'
import type { PricesWorld } from './prices-answer'
import type { ReceiptAsked, TaxesAnswers, TaxesAsk } from './taxes-messages'

function sideOf(rules: CompiledRules, { tiers, nowMs }: PricesWorld, { tier, lines, to, delivery }: ReceiptAsked) {
  const found = tiers.find(one => one.id === tier)
  if (!found) return null
  const decider = new CompiledDecider(rules, found.visitor, nowMs)
  return { decider, quote: quoteBasket(decider, { lines, sentTo: to, delivery, when: 'pay' }) }
}

function receipts(
  world: PricesWorld,
  { which, columns }: Extract<TaxesAsk, { kind: 'receipts' }>,
): TaxesAnswers['receipts'] {
  const sides = columns.map(column => sideOf(world[which].rules, world, column))
  return sides.map(side => {
    if (!side) return null
    const [first] = sides
    const isSame = first && JSON.stringify(linesOf(first)) === JSON.stringify(linesOf(side))
    return { quote: side.quote, differences: isSame && first !== side ? receiptDifferences(side, first) : [] }
  })
}
const linesOf = ({ quote }: { quote: TaxesAnswers['receiptIf'][number] & object }) =>
  quote.basket.lines.map(({ product, quantity }) => [product, quantity])

function board(world: PricesWorld, { which }: Extract<TaxesAsk, { kind: 'taxBoard' }>): string[][][] {
  const { places, categories, tiers, goods, delivery } = taxBoard(world[which].rules, world.tiers, world)
  const width = tiers.length
  const others = (cells: readonly Terms[], at: number) => {
    const said = tiers.map((_, t) =>
      JSON.stringify(cells[at * width + t]?.applied.map(({ rate, percent, called }) => [rate, percent, called])),
    )
    const most = mostOf(said)
    return tiers.flatMap((tier, t) => (said[t] === most ? [] : [tier.id]))
  }
  return places.map((_, p) => [
    ...categories.map((_, c) => others(goods, p * categories.length + c)),
    ...(delivery.length ? [others(delivery, p)] : []),
  ])
}

function mostOf(said: readonly string[]): string | undefined {
  const counts = new Map<string, number>()
  for (const one of said) counts.set(one, (counts.get(one) ?? 0) + 1)
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0]
}

export function answerTaxes(ask: TaxesAsk, world: PricesWorld): TaxesAnswers[TaxesAsk['kind']] {
  if (ask.kind === 'receipts') return receipts(world, ask)
  if (ask.kind === 'taxBoard') return board(world, ask)
  if (ask.kind === 'taxFindings') {
    const { tiers, nowMs } = world
    const counted = { sentTo: new Map(Object.entries(ask.sentTo)), changedAt: new Map(Object.entries(ask.changedAt)) }
    return findingsOf({ rules: world[ask.which].rules, tiers, nowMs, ...counted }, findingGroups.taxes)
  }
  if (ask.kind === 'taxImpact') {
    const { live, draft, tiers } = world
    const after = ask.changes ? withChanges(live, ask.changes) : draft.rules
    return taxImpact(live.rules, after, tiers, world)
  }
  const { rules } = world.draft
  return ask.settings.map(settings => {
    const book = { ...rules.rulebook, tax: { ...rules.rulebook.tax, settings } }
    return sideOf(new CompiledRules(book, rules.index, rules), world, ask.column)?.quote ?? null
  })
}
