/** Base rates as CSV, in columns of our own: taken out, looked at, and taken in as one change of the draft, or not at all. */
import { stringify } from 'csv-stringify/sync'
import { rateColumns } from '../../../core/files/csv-columns'
import type { RateColumn } from '../../../core/files/csv-columns'
import { rate as rateShape } from '../../../core/rulebook/shop-rules'
import type { Rate } from '../../../core/tax/terms'
import { harmlessCell } from '../../../core/texts/harmless-cell'
import type { AnyDb, Tx } from '../../db/database'
import { Problem } from '../../problem'
import { readLines } from '../csv/read-csv'
import { canonical } from '../../../core/canonical'
import { changeDraft } from '../editions/draft'
import type { Changed } from '../editions/draft'
import { permitEntry } from '../editions/entry-rights'
import type { Worker } from '../live/worker'
import { draftContents, readState } from '../versions/versions'
import type { Actor } from '../../trace'

export interface RatesPlan {
  added: number
  changed: number
  problems: { line: number; column: string; message: string }[]
}

interface Read {
  rates: Rate[]
  problems: RatesPlan['problems']
}
const mostRates = 50_000

/** Each line as a rate, or what is wrong with it at its column. */
async function readRates(text: string): Promise<Read> {
  const lines = await readLines(text, mostRates)
  if (!Array.isArray(lines)) return { rates: [], problems: [{ column: '', ...lines }] }
  if (lines.length > mostRates)
    return { rates: [], problems: [{ line: mostRates + 1, column: '', message: `More than ${mostRates} rates.` }] }
  const unknown = Object.keys(lines[0]?.record ?? {}).filter(one => !(rateColumns as readonly string[]).includes(one))
  const problems: Read['problems'] = unknown.map(column => ({
    line: 1,
    column,
    message: `There is no column “${column.slice(0, 60)}”.`,
  }))
  const rates: Rate[] = []
  const seen = new Set<string>()
  for (const { record, info } of lines) {
    const read = rateShape.safeParse(rateIn(record as Partial<Record<RateColumn, string>>))
    if (!read.success)
      problems.push(
        ...read.error.issues.map(({ path, message }) => ({ line: info.lines, column: columnOf(path), message })),
      )
    else if (seen.has(read.data.id))
      problems.push({ line: info.lines, column: 'id', message: 'This id stands in the file already.' })
    else rates.push(read.data)
    if (record.id) seen.add(record.id)
  }
  return { rates, problems }
}

const columnOf = ([first, second]: readonly PropertyKey[]): string =>
  first === 'place' ? (second === 'startsWith' ? 'postcodes' : String(second ?? 'country')) : String(first ?? '')

function rateIn({
  id,
  tax,
  country,
  region,
  postcodes,
  category,
  percent,
  delivery,
  name,
}: Partial<Record<RateColumn, string>>): object {
  const startsWith = (postcodes ?? '').split(/\s+/).filter(Boolean)
  return {
    id,
    tax,
    place: {
      ...(country ? { country: country.toUpperCase() } : {}),
      ...(region ? { region: region.toUpperCase() } : {}),
      ...(startsWith.length ? { startsWith } : {}),
    },
    category: category || 'standard',
    percent: (percent ?? '').replace(',', '.').replace(/\s*%$/, ''),
    ...(delivery ? { delivery } : {}),
    ...(name ? { name } : {}),
  }
}

const told = (before: readonly Rate[], { rates, problems }: Read): RatesPlan => {
  const known = new Map(before.map(one => [one.id, canonical(one)]))
  return {
    added: rates.filter(one => !known.has(one.id)).length,
    changed: rates.filter(one => known.has(one.id) && known.get(one.id) !== canonical(one)).length,
    problems: problems.slice(0, 200),
  }
}

/** What would come of a file. Rates that do not stand in it stay as they are. */
export async function planRates(db: AnyDb, text: string): Promise<RatesPlan> {
  const { book } = await draftContents(db, await readState(db))
  return told(book.tax?.rates ?? [], await readRates(text))
}

/** Takes it in as one change of the draft; throws `lines-not-right` with what is wrong where, and then nothing is taken. */
export async function importRates(
  db: AnyDb,
  /** Whoever asks, as they may work inside the transaction. */ workerIn: (tx: Tx) => Promise<Worker>,
  text: string,
  actor: Actor,
): Promise<RatesPlan & { names: Changed['names'] }> {
  const read = await readRates(text)
  if (read.problems.length)
    throw new Problem(
      'rates-not-right',
      { lines: new Set(read.problems.map(one => one.line)).size },
      { problems: read.problems.slice(0, 200) },
    )
  let plan: RatesPlan | undefined
  const { names } = await changeDraft(db, actor, async turn => {
    const permit = permitEntry((await workerIn(turn.tx)).rights)
    const before = turn.draft.book.tax?.rates ?? []
    plan = told(before, read)
    const known = new Map(before.map(one => [one.id, canonical(one)]))
    const puts = read.rates
      .filter(one => known.get(one.id) !== canonical(one))
      .map(one => ({ kind: 'rate' as const, key: one.id, body: one }))
    if (!puts.length) throw new Problem('nothing-to-change')
    for (const put of puts) await permit(turn, put)
    return { puts, action: 'rates.import', subject: 'rates', detail: { rates: puts.length } }
  })
  return { ...plan!, names }
}

export async function exportRates(db: AnyDb): Promise<string> {
  const { book } = await draftContents(db, await readState(db))
  const rows = (book.tax?.rates ?? []).map(({ id, tax, place, category, percent, delivery, name }) => [
    id,
    tax,
    place.country ?? '',
    place.region ?? '',
    (place.startsWith ?? []).join(' '),
    harmlessCell(category),
    String(percent),
    delivery ?? '',
    harmlessCell(name ?? ''),
  ])
  return stringify([[...rateColumns], ...rows])
}
