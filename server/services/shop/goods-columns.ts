/** The columns of goods as a file, each with how a cell of it is read. */
import { isDate } from '../../../core/calendar'
import type { GoodsColumn } from '../../../core/files/csv-columns'
import { readMoney } from '../../../core/money'
import { idPattern, isSitePath } from '../../../core/shapes'

export interface Columns {
  currency: string
}

/** What a cell says: a value, null for nothing, or a problem. */
type Cell = { value: unknown } | { problem: string }

const text =
  (most: number) =>
  (cell: string): Cell =>
    cell.length > most ? { problem: `At most ${most} characters.` } : { value: cell || null }

const amount = (cell: string, { currency }: Columns): Cell => {
  if (!cell) return { value: null }
  const minor = readMoney(cell, currency)
  if (minor === null || minor > 100_000_000) return { problem: `“${cell.slice(0, 40)}” is no amount in ${currency}.` }
  return { value: minor }
}

const day = (cell: string): Cell =>
  !cell || isDate(cell) ? { value: cell || null } : { problem: `“${cell.slice(0, 40)}” is no day such as 2026-11-24.` }

const whole =
  (most: number) =>
  (cell: string): Cell => {
    if (!cell) return { value: null }
    return /^\d{1,9}$/.test(cell) && Number(cell) <= most
      ? { value: Number(cell) }
      : { problem: `“${cell.slice(0, 40)}” is no whole number from 0 to ${most}.` }
  }

const yesNo = (cell: string): Cell =>
  ['', 'yes', 'no'].includes(cell.toLowerCase())
    ? { value: cell ? cell.toLowerCase() === 'yes' : null }
    : { problem: `“${cell.slice(0, 40)}” is neither yes nor no.` }

export const columns = {
  id: (cell: string): Cell =>
    idPattern.test(cell) && cell.length <= 80
      ? { value: cell }
      : { problem: `“${cell.slice(0, 40)}” is no id: small letters, digits and dashes.` },
  of: text(80),
  title: text(200),
  categories: (cell: string): Cell => ({ value: listed(cell) }),
  options: (cell: string): Cell => {
    const pairs = listed(cell).map(one =>
      /^([^:]+):(.+)$/
        .exec(one)
        ?.slice(1)
        .map(part => part.trim()),
    )
    const wrong = listed(cell)[pairs.indexOf(undefined)]
    if (wrong !== undefined) return { problem: `“${wrong.slice(0, 40)}” is written as colour: moss.` }
    return { value: pairs.length ? Object.fromEntries(pairs as [string, string][]) : null }
  },
  address: (cell: string): Cell =>
    !cell || (isSitePath(cell) && cell.length <= 300)
      ? { value: cell || null }
      : { problem: `“${cell.slice(0, 40)}” is no address such as /shop/goods/fell-dk.` },
  price: amount,
  currency: (cell: string, { currency }: Columns): Cell =>
    !cell || cell.toUpperCase() === currency
      ? { value: null }
      : { problem: `This site sells in ${currency}, not in ${cell.slice(0, 10)}.` },
  sale: amount,
  'sale from': day,
  'sale until': day,
  'tax category': text(60),
  taxed: yesNo,
  'delivery taxed': yesNo,
  /** Grams. */ weight: whole(1_000_000),
  /** Empty is yes: only what is not sent says so. */ sent: yesNo,
  'gives level': text(80),
  'gives roles': (cell: string): Cell => ({ value: listed(cell) }),
  summary: text(1000),
  stock: whole(1_000_000),
  cost: amount,
} satisfies Record<GoodsColumn, (cell: string, about: Columns) => Cell>

const listed = (cell: string) =>
  cell
    .split(';')
    .map(one => one.trim())
    .filter(Boolean)
