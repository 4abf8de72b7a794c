import { findingGroups, findingsOf } from '~~/core/audit/findings/findings'
import { receiptDifferences } from '~~/core/audit/receipt-differences'
import { taxBoard } from '~~/core/audit/tax-board'
import { CompiledRules } from '~~/core/gates/compiled'
import { CompiledDecider } from '~~/core/gates/compiled-decider'
import { quoteBasket } from '~~/core/orders/basket-quote'
import type { BasketQuote } from '~~/core/orders/basket-quote'
import type { Terms } from '~~/core/tax/terms'
import { answersOf } from '~/loft/core/worker/answering'
import type { Which } from '~/loft/core/worker/questions'
import { sideAsked, worldNow } from '~/loft/core/worker/world'
import type { Reckoned } from '~/loft/core/worker/world'
import type { ReceiptAsked, ReceiptTold, TaxesQuestions } from './questions'

function sideOf(rules: CompiledRules, { tiers, nowMs }: Reckoned, { tier, lines, to, delivery }: ReceiptAsked) {
  const found = tiers.find(one => one.id === tier)
  if (!found) return null
  const decider = new CompiledDecider(rules, found.visitor, nowMs)
  return { decider, quote: quoteBasket(decider, { lines, sentTo: to, delivery, when: 'pay' }) }
}

function receipts(
  world: Reckoned,
  { which, columns }: { which: Which; columns: ReceiptAsked[] },
): (ReceiptTold | null)[] {
  const sides = columns.map(column => sideOf(world[which].rules, world, column))
  return sides.map(side => {
    if (!side) return null
    const [first] = sides
    const isSame = first && JSON.stringify(linesOf(first)) === JSON.stringify(linesOf(side))
    return { quote: side.quote, differences: isSame && first !== side ? receiptDifferences(side, first) : [] }
  })
}
const linesOf = ({ quote }: { quote: BasketQuote }) =>
  quote.basket.lines.map(({ product, quantity }) => [product, quantity])

function board(world: Reckoned, which: Which): string[][][] {
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

export const taxesAnswers = answersOf<TaxesQuestions>('taxes', {
  receipts: ask => receipts(worldNow(), ask),
  board: ({ which }) => board(worldNow(), which),
  findings({ which, sentTo, changedAt }) {
    const { tiers, nowMs } = worldNow()
    const counted = { sentTo: new Map(Object.entries(sentTo)), changedAt: new Map(Object.entries(changedAt)) }
    return findingsOf({ rules: sideAsked(which).rules, tiers, nowMs, ...counted }, findingGroups.taxes)
  },
  receiptIf({ settings, column }) {
    const { rules } = sideAsked('draft')
    return settings.map(one => {
      const book = { ...rules.rulebook, tax: { ...rules.rulebook.tax, settings: one } }
      return sideOf(new CompiledRules(book, rules.index, rules), worldNow(), column)?.quote ?? null
    })
  },
})
