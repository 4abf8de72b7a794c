/** Goods in and out as CSV (RFC 4180): all lines as one change of the draft, or none; each problem with its line and column. */
import { stringify } from 'csv-stringify/sync'
import { sql } from 'drizzle-orm'
import { canonical } from '../../../core/canonical'
import type { Product } from '../../../core/kinds/product'
import { typedMoney } from '../../../core/money'
import { rightsForParts } from '../../../core/staff/part-rights'
import { mayStaff } from '../../../core/staff/staff-rule'
import { harmlessCell } from '../../../core/texts/harmless-cell'
import { clockDate } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { rowsOf } from '../../db/rows-of'
import { stock, stockMove, thing as thingTable } from '../../db/schema'
import { inTransaction } from '../../db/turn'
import { split } from '../../kinds/kinds'
import { product as productKind } from '../../kinds/product'
import { othersTurn } from '../../others-turn'
import { Problem } from '../../problem'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { linesAtOnce } from '../csv/read-csv'
import type { LineProblem } from '../csv/read-csv'
import { applyWork, openTurn } from '../editions/draft'
import type { Put, Turn } from '../editions/draft'
import { authoriseAddition, changedParts, lookable, ownersOfThings } from '../editions/thing-rights'
import { makerOf } from '../live/worker'
import type { Worker } from '../live/worker'
import { authorise } from '../staff/authorise'
import { contentOf, draftContents, readState } from '../versions/versions'
import type { StoredContents, StoredVersion } from '../versions/versions'
import { goodsColumns } from '../../../core/files/csv-columns'
import type { GoodsColumn } from '../../../core/files/csv-columns'
import { pick, readGoods, wholeOf, without } from './goods-file'
import type { GoodsLine, Whole } from './goods-file'

/** Problems that are told; whoever has more has the same one very often. */
const mostTold = 200

export interface GoodsPlan {
  added: number
  changed: number
  same: number
  /** Lines whose stock or cost is counted anew, at once. */ counted: number
  problems: LineProblem[]
}

interface Planned {
  puts: Put[]
  fresh: string[]
  counts: { product: string; pieces?: number; cost?: number }[]
  plan: GoodsPlan
}

async function plan(tx: AnyDb, worker: Worker, draft: StoredContents, csv: string): Promise<Planned> {
  const { currency } = draft.index.site
  const { lines, problems } = await readGoods(csv, { currency })
  const none: Planned = {
    puts: [],
    fresh: [],
    counts: [],
    plan: { added: 0, changed: 0, same: 0, counted: 0, problems },
  }
  if (problems.length) return none
  const stored = new Map(lines.map(({ id }) => [id, draft.get('product', id) as StoredVersion | undefined]))
  const contents = await contentOf(
    tx,
    [...stored.values()].flatMap(one => one?.id ?? []),
  )
  const rights = await rightsOfGoods(tx, worker)
  const inFile = new Map(lines.map(line => [line.id, line]))
  const paths = new Map<string, number>()
  const { puts, fresh, counts, plan: told } = none
  for (const [i, line] of lines.entries()) {
    if (i % linesAtOnce === 0) await othersTurn()
    const at = stored.get(line.id)
    const { id: _, ...body } = (at?.body ?? {}) as Whole
    const before: Whole = at ? { ...body, ...contents.get(at.id) } : {}
    const next = wholeOf(before, line)
    const found = problemsOf(next, line, { draft, inFile, paths })
    problems.push(...found)
    if (found.length) continue
    const kept = productKind.input.parse(without(next, ['passages', 'broken'])) as Whole
    const whole: Whole = { ...kept, ...pick(before, ['passages', 'broken']) }
    if (!at) rights.add(whole)
    const changed = at ? changedParts(before, whole) : []
    if (changed.length) await rights.change(line.id, changed)
    const isSame = at !== undefined && changed.length === 0
    if (isSame) told.same++
    else {
      puts.push({ kind: 'product', key: line.id, ...partedGoods(line.id, whole) })
      if (at) told.changed++
      else {
        told.added++
        fresh.push(line.id)
      }
    }
    const count = countOf(line)
    if (count) counts.push(count)
  }
  if (counts.some(one => one.pieces !== undefined)) rights.count('stock')
  if (counts.some(one => one.cost !== undefined)) rights.count('cost')
  told.counted = counts.length
  return none
}

export const partedGoods = (id: string, whole: Whole) => {
  const { body, content } = split('product', whole)
  return { body: { id, ...body }, content }
}

function countOf({ id, given: { stock: pieces, cost } }: GoodsLine): Planned['counts'][number] | null {
  if (pieces == null && cost == null) return null
  return {
    product: id,
    ...(pieces == null ? {} : { pieces: pieces as number }),
    ...(cost == null ? {} : { cost: cost as number }),
  }
}

/** Columns of what is called otherwise in a product. */
const columnOf: Record<string, GoodsColumn> = {
  'sale until': 'sale until',
  path: 'address',
  taxCategory: 'tax category',
  goodsTaxed: 'taxed',
  deliveryTaxed: 'delivery taxed',
  'gives level': 'gives level',
  gives: 'gives roles',
}

/** What is wrong with one line beside the others and what is there. */
function problemsOf(
  next: Whole,
  { id, line, given }: GoodsLine,
  {
    draft,
    inFile,
    paths,
  }: { draft: StoredContents; inFile: ReadonlyMap<string, GoodsLine>; paths: Map<string, number> },
): LineProblem[] {
  const found: LineProblem[] = []
  const tell = (column: GoodsColumn, message: string) => found.push({ line, column, message })
  const { of, categories = [], path, title, options, gives } = next as Product
  if (!title) tell('title', 'A new product has a title.')
  for (const category of categories)
    if (!draft.index.has('category', category)) tell('categories', `There is no category “${category.slice(0, 40)}”.`)
  if (of !== undefined) {
    const parent = inFile.get(of)
    const parentOf =
      parent && 'of' in parent.given ? (parent.given.of as string | null) : draft.index.get('product', of)?.of
    if (!parent && !draft.index.has('product', of)) tell('of', `There is no product “${of.slice(0, 40)}”.`)
    else if (of === id) tell('of', 'A product is no variant of itself.')
    else if (parentOf) tell('of', `“${of}” is a variant itself: a variant is of a product.`)
    if (categories.length && given.categories !== undefined)
      tell('categories', 'A variant lies in the categories of its product.')
  } else if (options) tell('options', 'Only a variant says what tells it apart.')
  const { levels = [], roles = [] } = draft.book
  if (gives?.level !== undefined && !levels.some(one => one.id === gives.level))
    tell('gives level', `There is no level “${gives.level.slice(0, 40)}”.`)
  for (const role of gives?.roles ?? []) {
    const known = roles.find(one => one.id === role)
    if (!known) tell('gives roles', `There is no role “${role.slice(0, 40)}”.`)
    else if (known.staff) tell('gives roles', `“${role}” is a role of the staff: nobody buys it.`)
  }
  if (path !== undefined) {
    const other = draft.index.at(path)
    // Goods of the file may pass an address on to one another.
    const isGoods = other !== undefined && draft.index.pathOf('product', other.id) === path
    const isOthers = other && !(isGoods && (other.id === id || inFile.get(other.id)?.given.address !== undefined))
    if (isOthers) tell('address', `${path} is the address of something else.`)
    if (paths.has(path)) tell('address', `The same address stands in line ${paths.get(path)}.`)
    paths.set(path, line)
  }
  if (found.length) return found
  const fits = productKind.input.safeParse(without(next, ['passages', 'broken']))
  for (const issue of fits.success ? [] : fits.error.issues) {
    const [key = '', part = ''] = issue.path.map(String)
    const column = columnOf[`${key} ${part}`] ?? columnOf[key] ?? key
    found.push({ line, column, message: issue.message })
  }
  return found
}

/** Rights asked once for each sort of change and whose it is: a hundred thousand lines ask the same few things. */
export async function rightsOfGoods(tx: AnyDb, worker: Worker) {
  const owners = await ownersOfThings(tx, ['product'])
  const asked = new Set<string>()
  const once = async (key: string, ask: () => void | Promise<void>) => {
    if (asked.has(key)) return
    await ask()
    asked.add(key)
  }
  return {
    add: (whole: Whole) => {
      const key = `add ${Object.keys(whole).sort().join()}`
      if (asked.has(key)) return
      authoriseAddition(worker, 'product', whole)
      asked.add(key)
    },
    change: (id: string, parts: readonly string[]) => {
      const owned = owners.get(`product ${id}`) ?? { madeBy: null, assignedTo: null }
      return once(`change ${canonical(owned)} ${[...parts].sort().join()}`, async () => {
        const maker = await makerOf(tx, worker, 'products', owned.madeBy)
        for (const ask of rightsForParts('product', 'products', parts))
          authorise(worker.rights, { ...ask, action: 'change', thing: owned, ...maker })
      })
    },
    count: (kind: 'stock' | 'cost') => authorise(worker.rights, { kind, action: 'change' }),
  }
}

const short = (told: GoodsPlan): GoodsPlan => ({ ...told, problems: told.problems.slice(0, mostTold) })

/** Reads the file against the draft, and changes nothing. */
export async function planGoods(db: AnyDb, worker: Worker, csv: string): Promise<GoodsPlan> {
  const draft = await draftContents(db, await readState(db))
  return short((await plan(db, worker, draft, csv)).plan)
}

/** Takes all lines into the draft as one change, and counts stock and cost at once; with a problem in any, nothing. */
export async function importGoods(
  db: AnyDb,
  /** With the rights they have once nobody else can change them. */ workerIn: (tx: Tx) => Promise<Worker>,
  csv: string,
  actor: Actor,
): Promise<GoodsPlan> {
  return inTransaction(db, async tx => {
    const turn: Turn = await openTurn(tx, actor)
    const worker = await workerIn(tx)
    const { puts, fresh, counts, plan: told } = await plan(tx, worker, turn.draft, csv)
    if (told.problems.length) return short(told)
    if (fresh.length) await ownThem(tx, fresh, actor)
    if (counts.length) await count(tx, counts, actor)
    const detail = { added: told.added, changed: told.changed, counted: told.counted }
    if (puts.length) await applyWork(turn, async () => ({ puts, action: 'goods.import', subject: 'products', detail }))
    else if (counts.length) await leaveTrace(tx, actor, 'goods.import', 'products', detail)
    else throw new Problem('nothing-to-change')
    return told
  })
}

async function ownThem(tx: Tx, keys: readonly string[], actor: Actor): Promise<void> {
  const given = rowsOf(
    keys.map(key => ({ key })),
    'key text',
  )
  await tx.execute(sql`
    insert into ${thingTable} (kind, key, made_by) select 'product', key, ${actor.id} from ${given}
    on conflict (kind, key) do update set made_by = excluded.made_by, assigned_to = null`)
}

async function count(tx: Tx, counts: Planned['counts'], actor: Actor): Promise<void> {
  const given = rowsOf(counts, 'product text, pieces int, cost int')
  await tx.execute(
    sql`insert into ${stock} (product, pieces, cost) select product, 0, 0 from ${given} on conflict do nothing`,
  )
  await tx.execute(sql`
    insert into ${stockMove} (at, product, before, after, person_id, who, how)
    select ${clockDate().toISOString()}::timestamptz, given.product, ${stock}.pieces, given.pieces, ${actor.id}, ${actor.name}, 'import'
    from ${given} join ${stock} on ${stock}.product = given.product where given.pieces <> ${stock}.pieces`)
  await tx.execute(sql`
    update ${stock} set pieces = coalesce(given.pieces, ${stock}.pieces), cost = coalesce(given.cost, ${stock}.cost)
    from ${given} where ${stock}.product = given.product`)
}

const yesNoCell = (kept: boolean | undefined) => (kept === undefined ? '' : kept ? 'yes' : 'no')

/** Goods of the draft as CSV, with what of them these rights may look at. */
export async function exportGoods(db: AnyDb, worker: Worker): Promise<string> {
  const draft = await draftContents(db, await readState(db))
  const { currency } = draft.index.site
  const seen = await lookable(db, worker, draft.of('product') as (StoredVersion & { kind: 'product' })[])
  const may = (kind: 'stock' | 'cost') => mayStaff(worker.rights, { kind, action: 'look' }).allowed
  const [countsStock, countsCost] = [may('stock'), may('cost')]
  const shown = goodsColumns.filter(name => (name !== 'stock' || countsStock) && (name !== 'cost' || countsCost))
  const stored = new Map((await db.select().from(stock)).map(row => [row.product, row]))
  const money = (minor: number | undefined) => (minor === undefined ? '' : typedMoney(minor, currency))
  let file = stringify([shown])
  for (let i = 0; i < seen.length; i += linesAtOnce) {
    const some = seen.slice(i, i + linesAtOnce)
    const contents = await contentOf(
      db,
      some.map(({ one }) => one.id),
    )
    file += stringify(
      some.map(({ one, seen: sees }) => {
        const product = one.body as Product
        const kept = stored.get(one.key)
        const cells: Record<GoodsColumn, string> = {
          id: one.key,
          of: sees('of') ? (product.of ?? '') : '',
          title: sees('title') ? harmlessCell(product.title ?? '') : '',
          categories: sees('categories') ? (product.categories ?? []).join('; ') : '',
          options: sees('options')
            ? harmlessCell(
                Object.entries(product.options ?? {})
                  .map(([name, value]) => `${name}: ${value}`)
                  .join('; '),
              )
            : '',
          address: sees('path') ? (product.path ?? '') : '',
          price: sees('price') ? money(product.price) : '',
          currency,
          sale: sees('sale') ? money(product.sale?.price) : '',
          'sale from': sees('sale') ? (product.sale?.from ?? '') : '',
          'sale until': sees('sale') ? (product.sale?.until ?? '') : '',
          'tax category': sees('taxCategory') ? (product.taxCategory ?? '') : '',
          taxed: sees('goodsTaxed') ? yesNoCell(product.goodsTaxed) : '',
          'delivery taxed': sees('deliveryTaxed') ? yesNoCell(product.deliveryTaxed) : '',
          weight: sees('weight') ? String(product.weight ?? '') : '',
          sent: sees('sent') ? yesNoCell(product.sent) : '',
          'gives level': sees('gives') ? (product.gives?.level ?? '') : '',
          'gives roles': sees('gives') ? (product.gives?.roles ?? []).join('; ') : '',
          summary: sees('summary') ? harmlessCell(String(contents.get(one.id)?.summary ?? '')) : '',
          stock: String(kept?.pieces ?? ''),
          cost: money(kept?.cost),
        }
        return shown.map(name => cells[name])
      }),
    )
    await othersTurn()
  }
  return file
}
