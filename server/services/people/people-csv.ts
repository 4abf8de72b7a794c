/** People in and out as CSV (RFC 4180): all lines or none, each problem with its line. */
import { inTransaction } from '../../db/turn'
import { englishWords, sayWord } from '../../../core/site-words/site-words'
import { stringify } from 'csv-stringify/sync'
import { peopleColumns } from '../../../core/files/csv-columns'
import { harmlessCell } from '../../../core/texts/harmless-cell'
import { othersTurn } from '../../others-turn'
import { linesAtOnce, readLines } from '../csv/read-csv'
import type { CsvLine, LineProblem } from '../csv/read-csv'
import { asc, sql } from 'drizzle-orm'
import { emailAddress, personName, readFacts } from '../entrance/sign-up-form'
import type { FactValues } from '../entrance/sign-up-form'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { clockDate } from '../../clock'
import type { AnyDb } from '../../db/database'
import type { StaffRights } from '../../../core/staff/staff-rule'
import { idsOf } from '../../db/rows-of'
import { lockedBook } from '../versions/versions'
import type { Worker } from '../live/worker'
import { authorise } from '../staff/authorise'
import { membership, person, roleGrant } from '../../db/schema'
import { Problem } from '../../problem'
import { newId } from '../secrets/tokens'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'

export interface ImportRow {
  line: number
  name: string
  email: string
  levels: string[]
  roles: string[]
  facts: FactValues
}
export interface ImportPlan {
  rows: ImportRow[]
  problems: LineProblem[]
}

const mostImported = 20_000

/** Reads the file against the live rules and the people there are. Nothing is changed. */
export async function planImport(tx: AnyDb, book: Rulebook, text: string): Promise<ImportPlan> {
  return planLines(tx, book, await readLines(text, mostImported))
}

async function planLines(tx: AnyDb, book: Rulebook, lines: CsvLine[] | LineProblem): Promise<ImportPlan> {
  if (!Array.isArray(lines)) return { rows: [], problems: [lines] }
  const problems: LineProblem[] = []
  const facts = profileFacts(book)
  const header = Object.keys(lines[0]?.record ?? {})
  const known = new Set<string>([...peopleColumns, ...facts.map(fact => fact.id)])
  for (const name of header)
    if (!known.has(name))
      problems.push({
        line: 1,
        column: name,
        message: `There is no column “${name}”. Known: ${[...known].join(', ')}.`,
      })
  for (const name of ['name', 'email'])
    if (lines.length && !header.includes(name)) problems.push({ line: 1, message: `The column “${name}” is missing.` })
  if (!lines.length)
    problems.push({
      line: 1,
      message: `The file holds no people. The first line names the columns: ${peopleColumns.join(',')}.`,
    })
  if (lines.length > mostImported)
    problems.push({ line: mostImported + 2, message: `At most ${mostImported} people at once.` })
  if (problems.length) return { rows: [], problems }
  const taken = await takenAddresses(
    tx,
    lines.map(({ record }) => record.email ?? ''),
  )
  const seen = new Map<string, number>()
  const rows: ImportRow[] = []
  for (const [i, { record, info }] of lines.entries()) {
    if (i % linesAtOnce === 0) await othersTurn()
    const { row, found } = readLine(book, record, info.lines)
    const address = row.email.toLowerCase()
    if (taken.has(address))
      found.push({ line: info.lines, column: 'email', message: 'Somebody already signs in with this address.' })
    if (seen.has(address))
      found.push({
        line: info.lines,
        column: 'email',
        message: `The same address stands in line ${seen.get(address)}.`,
      })
    seen.set(address, info.lines)
    problems.push(...found)
    if (!found.length) rows.push(row)
  }
  return { rows, problems }
}

async function takenAddresses(tx: AnyDb, addresses: string[]): Promise<Set<string>> {
  if (!addresses.length) return new Set()
  const rows = await tx.execute<{ email: string }>(
    sql`select lower(email) email from person where lower(email) in ${idsOf(addresses.map(one => one.toLowerCase()))}`,
  )
  return new Set(rows.map(row => row.email))
}

function readLine(
  book: Rulebook,
  record: Record<string, string>,
  line: number,
): { row: ImportRow; found: LineProblem[] } {
  const found: LineProblem[] = []
  const tell = (column: string, message: string) => found.push({ line, column, message })
  const name = personName.safeParse(record.name)
  const email = emailAddress.safeParse(record.email)
  if (!name.success) tell('name', name.error.issues[0]!.message)
  if (!email.success) tell('email', email.error.issues[0]!.message)
  const named = (column: 'levels' | 'roles', of: readonly { id: string; name?: string; staff?: boolean }[]) =>
    (record[column] ?? '')
      .split(';')
      .map(one => one.trim())
      .filter(Boolean)
      .flatMap(word => {
        const entry = of.find(one => one.id === word || one.name?.toLowerCase() === word.toLowerCase())
        if (!entry) tell(column, `There is no ${column.slice(0, -1)} “${word}” in the live edition.`)
        else if (entry.staff)
          tell(column, `${entry.name ?? entry.id} is a staff role: it is handed out by name, never by a file.`)
        return entry && !entry.staff ? [entry.id] : []
      })
  const facts = readFacts(
    profileFacts(book),
    Object.fromEntries(profileFacts(book).map(fact => [`fact-${fact.id}`, record[fact.id]])),
  )
  for (const [key, problem] of Object.entries(facts.problems))
    tell(key.slice('fact-'.length), sayWord(englishWords, problem.word, problem.facts))
  const given = Object.fromEntries(Object.entries(facts.values).filter(([id]) => record[id]))
  return {
    row: {
      line,
      name: name.data ?? '',
      email: email.data ?? '',
      levels: named('levels', book.levels ?? []),
      roles: named('roles', book.roles ?? []),
      facts: given,
    },
    found,
  }
}

/** Facts that are kept with people; others come from elsewhere. */
const profileFacts = (book: Rulebook) => (book.facts ?? []).filter(one => !one.from)

/** What a line brings besides name and address is given, so it takes the right to give it. */
export function authoriseImport(rights: StaffRights, rows: readonly ImportRow[]): void {
  const given = {
    levels: rows.some(row => row.levels.length),
    roles: rows.some(row => row.roles.length),
    facts: rows.some(row => Object.keys(row.facts).length),
  }
  const fields = Object.entries(given)
    .filter(([, any]) => any)
    .map(([field]) => field)
  if (fields.length) authorise(rights, { kind: 'people', action: 'change', fields })
}

/** Who brings them in, as they are inside a transaction. */
export type Importer = Pick<Worker, 'rights' | 'snapshot'> & { actor: Actor }

/**
 * All people of the file, or none. They have no password yet: they choose one by mail. The file is read, and held against
 * who there is, before anything is written; what others did meanwhile is found by what the database holds on to, and the
 * rules are asked once more at the end, so that nobody waits for a long file.
 */
export async function importPeople(
  db: AnyDb,
  importer: (db: AnyDb) => Promise<Importer>,
  text: string,
): Promise<number> {
  const lines = await readLines(text, mostImported)
  const refuse = (problems: readonly LineProblem[]) => {
    if (problems.length)
      throw new Problem('lines-not-right', { lines: problems.length }, { problems: problems.slice(0, 200) })
  }
  const { snapshot } = await importer(db)
  const { rows, problems } = await planLines(db, snapshot.rules.rulebook, lines)
  refuse(problems)
  return inTransaction(db, async tx => {
    await tx.execute(
      sql`select set_config('statement_timeout', '120s', true), set_config('idle_in_transaction_session_timeout', '120s', true)`,
    )
    const { rights, actor } = await importer(tx)
    authorise(rights, { kind: 'people', action: 'add', fields: ['name', 'address'] })
    authoriseImport(rights, rows)
    const now = clockDate()
    const made = rows.map(row => ({ ...row, id: newId('p') }))
    for (let i = 0; i < made.length; i += linesAtOnce) {
      const part = made.slice(i, i + linesAtOnce)
      const fresh = await tx
        .insert(person)
        .values(
          part.map(({ id, name, email, facts }) => ({
            id,
            name,
            email,
            facts,
            createdAt: now,
            confirmedAt: now,
            approvedAt: now,
          })),
        )
        .onConflictDoNothing()
        .returning({ id: person.id })
      const there = new Set(fresh.map(one => one.id))
      refuse(
        part
          .filter(one => !there.has(one.id))
          .map(({ line }) => ({ line, column: 'email', message: 'Somebody already signs in with this address.' })),
      )
      const held = part.flatMap(({ id, levels }) =>
        levels.map(level => ({ personId: id, level, since: now, grantedBy: actor.name, source: 'import' as const })),
      )
      if (held.length) await tx.insert(membership).values(held)
      const granted = part.flatMap(({ id, roles }) =>
        [...new Set(roles)].map(role => ({ personId: id, role, grantedBy: actor.name })),
      )
      if (granted.length) await tx.insert(roleGrant).values(granted)
    }
    refuse(goneFrom(await lockedBook(tx), rows))
    await leaveTrace(tx, actor, 'people.import', 'people', { people: made.length })
    return made.length
  })
}

/** Levels and roles that are not what they were when the file was read. */
function goneFrom(book: Rulebook, rows: readonly ImportRow[]): LineProblem[] {
  const levels = new Set((book.levels ?? []).map(one => one.id))
  const roles = new Set((book.roles ?? []).filter(one => !one.staff).map(one => one.id))
  return rows
    .filter(row => row.levels.some(id => !levels.has(id)) || row.roles.some(id => !roles.has(id)))
    .map(({ line }) => ({ line, message: 'What this line gives was changed meanwhile: read the file again.' }))
}

/** Everybody as CSV, with what they hold now. */
export async function exportPeople(db: AnyDb, book: Rulebook): Promise<string> {
  const now = clockDate().toISOString()
  const rows = await db
    .select({
      name: person.name,
      email: person.email,
      facts: person.facts,
      createdAt: person.createdAt,
      levels: sql<string>`coalesce((select string_agg(m.level, ';' order by m.level) from membership m where m.person_id = person.id and m.since <= ${now}::timestamptz and (m.until is null or m.until > ${now}::timestamptz)), '')`,
      roles: sql<string>`coalesce((select string_agg(g.role, ';' order by g.role) from role_grant g where g.person_id = person.id), '')`,
    })
    .from(person)
    .orderBy(asc(sql`lower(${person.name})`), asc(person.id))
  const facts = profileFacts(book).map(fact => fact.id)
  let file = stringify([[...peopleColumns, 'since', ...facts]])
  for (let i = 0; i < rows.length; i += linesAtOnce) {
    file += stringify(
      rows
        .slice(i, i + linesAtOnce)
        .map(row => [
          harmlessCell(row.name),
          harmlessCell(row.email),
          row.levels,
          row.roles,
          row.createdAt.toISOString(),
          ...facts.map(id => harmlessCell(String(row.facts[id] ?? ''))),
        ]),
    )
    await othersTurn()
  }
  return file
}
