/** A file of goods, read: its lines, each with what it gives, and what is wrong where. */
import type { Product } from '../../../core/kinds/product'
import { othersTurn } from '../../others-turn'
import { linesAtOnce, readLines } from '../csv/read-csv'
import type { CsvLine, LineProblem } from '../csv/read-csv'
import { goodsColumns } from '../../../core/files/csv-columns'
import type { GoodsColumn } from '../../../core/files/csv-columns'
import { columns } from './goods-columns'
import type { Columns } from './goods-columns'

/** A line read: what it says of the product, and of its stock. */
export interface GoodsLine {
  line: number
  id: string
  given: Partial<Record<GoodsColumn, unknown>>
}

export async function readGoods(csv: string, about: Columns): Promise<{ lines: GoodsLine[]; problems: LineProblem[] }> {
  const read = await readLines(csv, mostGoods)
  if (!Array.isArray(read)) return { lines: [], problems: [read] }
  const problems = headerProblems(read)
  if (problems.length) return { lines: [], problems }
  const lines: GoodsLine[] = []
  const seen = new Map<string, number>()
  for (const [i, { record, info }] of read.entries()) {
    if (i % linesAtOnce === 0) await othersTurn()
    const given: GoodsLine['given'] = {}
    for (const [name, cell] of Object.entries(record) as [GoodsColumn, string][]) {
      // A spreadsheet's guard against formulas is no part of what it says.
      const made = columns[name](cell.replace(/^'(?=[=+\-@\t\r])/, ''), about)
      if ('problem' in made) problems.push({ line: info.lines, column: name, message: made.problem })
      else given[name] = made.value
    }
    const id = given.id as string | undefined
    if (id === undefined) continue
    if (seen.has(id))
      problems.push({ line: info.lines, column: 'id', message: `The same id stands in line ${seen.get(id)}.` })
    seen.set(id, info.lines)
    lines.push({ line: info.lines, id, given })
  }
  return { lines, problems }
}

function headerProblems(lines: readonly CsvLine[]): LineProblem[] {
  if (!lines.length)
    return [
      { line: 1, message: `The file holds no goods. The first line names the columns: ${goodsColumns.join(',')}.` },
    ]
  const header = Object.keys(lines[0]!.record)
  const strange = header.filter(name => !Object.hasOwn(columns, name))
  return [
    ...strange.map(name => ({
      line: 1,
      column: name,
      message: `There is no column “${name.slice(0, 40)}”. Known: ${goodsColumns.join(', ')}.`,
    })),
    ...(header.includes('id') ? [] : [{ line: 1, message: 'The column “id” is missing.' }]),
    ...(lines.length > mostGoods ? [{ line: mostGoods + 2, message: `At most ${mostGoods} goods at once.` }] : []),
  ]
}

/** What stands in a line, put over what is there; a column that is empty takes away what it says. */
export function wholeOf(before: Whole, { given }: GoodsLine): Whole {
  let next: Whole = { ...before }
  const set = (key: string, value: unknown) => {
    if (value === undefined) return
    const isNothing = value === null || (Array.isArray(value) && !value.length)
    next = isNothing ? without(next, [key]) : { ...next, [key]: value }
  }
  set('of', given.of)
  set('title', given.title)
  set('categories', given.categories)
  set('options', given.options)
  set('path', given.address)
  set('price', given.price)
  set('taxCategory', given['tax category'])
  set('goodsTaxed', given.taxed)
  set('deliveryTaxed', given['delivery taxed'])
  set('weight', given.weight)
  set('sent', given.sent)
  if (given['gives level'] !== undefined || given['gives roles'] !== undefined) {
    const gives = (before.gives ?? {}) as NonNullable<Product['gives']>
    const level = given['gives level'] === undefined ? gives.level : (given['gives level'] ?? undefined)
    const roles = (given['gives roles'] as string[] | undefined) ?? gives.roles ?? []
    const whole = { ...(level === undefined ? {} : { level }), ...(roles.length ? { roles } : {}) }
    set('gives', Object.keys(whole).length ? whole : null)
  }
  if (given.summary !== undefined) next.summary = given.summary ?? ''
  if (given.sale !== undefined || given['sale from'] !== undefined || given['sale until'] !== undefined) {
    const sale = (before.sale ?? {}) as { price?: number; from?: string; until?: string }
    const price = given.sale === undefined ? sale.price : (given.sale as number | null)
    const from = given['sale from'] === undefined ? sale.from : given['sale from']
    const until = given['sale until'] === undefined ? sale.until : given['sale until']
    set('sale', price == null ? null : { price, ...(from ? { from } : {}), ...(until ? { until } : {}) })
  }
  return next
}

/** As many goods come in one file. */
const mostGoods = 200_000

export type Whole = Record<string, unknown>

export const without = (from: Whole, keys: readonly string[]): Whole =>
  Object.fromEntries(Object.entries(from).filter(([key]) => !keys.includes(key)))

export const pick = (from: Whole, keys: readonly string[]): Whole =>
  Object.fromEntries(Object.entries(from).filter(([key]) => keys.includes(key)))
