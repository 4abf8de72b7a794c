/** A folder of files into the draft: all of it, or nothing where something in it is not right. */
import { inTransaction } from '../../db/turn'
import { canonical } from '../../../core/canonical'
import { deepest, depthOf } from '../../../core/check/site-check'
import type { Contents } from '../../../core/editions/contents'
import { issueCodes } from '../../../core/errors'
import type { IssueCode } from '../../../core/errors'
import { localTime } from '../../../core/calendar'
import { keptOfText, textOf } from '../../../core/pages/text-of'
import type { TextReading } from '../../../core/texts/passages'
import { frameParts } from '../../../core/kinds/block'
import { isKept } from '../../../core/kinds/kinds'
import type { VersionedThing } from '../../../core/kinds/kinds'
import { idPattern } from '../../../core/shapes'
import { lexiconOf } from '../../../core/sentences/lexicon'
import { clockMs } from '../../clock'
import type { AnyDb } from '../../db/database'
import { thing as thingTable } from '../../db/schema'
import { kindNames } from '../../../core/sentences/words'
import { serverKinds, split, staffKindOf } from '../../kinds/kinds'
import { Problem } from '../../problem'
import type { Actor } from '../../trace'
import { changeDraft } from '../editions/draft'
import type { Put } from '../editions/draft'
import { authoriseAddition, authoriseChange, authoriseOwned, ownersOfThing, permitLook } from '../editions/thing-rights'
import { refuseSwitchedOff } from '../editions/things'
import type { Worker } from '../live/worker'
import { draftContents, readState } from '../versions/versions'
import type { StoredContents } from '../versions/versions'
import { picturesOf, withPicture } from './picture-paths'
import { readBeside, readTextBeside, TookTooLong } from '../../reading/reading'
import { lineIn, lineOfField } from '../../reading/page-file'
import type { FileIssue, PartTree } from '../../reading/page-file'
import type { FileRead } from '../../reading/read-file'
import { givenThings } from './take'

type Data = Record<string, unknown>
interface Brought {
  /** It stands in the file of another, in an order that counts. */
  within: boolean
  kind: VersionedThing
  key: string
  thing: Data
  file: string
  line(path: readonly (string | number)[]): number
}
export interface Deed {
  file: string
  line: number
  does: 'adds' | 'changes' | 'moves' | 'takes out'
  kind: VersionedThing
  key: string
}
export interface BringAnswer {
  deeds: Deed[]
  issues: FileIssue[]
}

/**
 * With `dry` nothing is changed. What stood in a page, a post, the frame or a menu and is not in its file is taken out;
 * things without a file stay as they are. Answers what it does, or what is wrong, with file and line.
 */
export async function bringFolder(
  db: AnyDb,
  files: ReadonlyMap<string, string>,
  {
    pictures = new Map(),
    dry,
    actor,
    worker,
  }: {
    /** Names of stored pictures by their paths in the folder. */ pictures?: ReadonlyMap<string, string>
    dry: boolean
    actor: Actor
    /** Whose rights it takes, thing by thing; none for the command. */ worker?: Worker
  },
): Promise<BringAnswer> {
  const { brought, holders, issues } = await readFiles(files)
  for (const one of brought) issues.push(...namePictures(one, pictures))
  const readings = await readTexts(brought, issues)
  if (issues.length) return { deeds: [], issues }
  const plan = async (tx: AnyDb, draft: StoredContents) => {
    const given = await givenThings(tx, draft)
    const planned = planOf(given, draft, { brought, holders, readings })
    planned.issues.push(...tooDeep(planned, draft))
    for (const deed of planned.deeds) await permit(tx, worker, draft, given, deed, planned)
    return planned
  }
  if (dry) {
    return inTransaction(db, async tx => {
      const draft = await draftContents(tx, await readState(tx))
      return answerOf(await plan(tx, draft))
    })
  }
  let answer: BringAnswer = { deeds: [], issues: [] }
  try {
    await changeDraft(db, actor, async turn => {
      const planned = await plan(turn.tx, turn.draft)
      answer = answerOf(planned)
      if (planned.issues.length || !planned.puts.length) throw new Stop()
      for (const put of planned.puts)
        if (put.body !== null && !turn.draft.get(put.kind, put.key))
          await turn.tx
            .insert(thingTable)
            .values({ kind: put.kind as VersionedThing, key: put.key, madeBy: actor.id })
            .onConflictDoNothing()
      return {
        puts: planned.puts,
        action: 'folder.bring',
        subject: 'folder',
        detail: { things: planned.puts.map(one => `${one.kind} ${one.key}`) },
        removes: planned.deeds.some(one => one.does === 'takes out'),
      }
    })
  } catch (error) {
    if (error instanceof Stop) return answer
    if (!(error instanceof Problem)) throw error
    return { deeds: [], issues: told(error, brought) }
  }
  return answer
}
/** What is not right, and only then what it does: of what may not be done nothing is told. */
const answerOf = ({ deeds, issues }: Plan): BringAnswer => ({
  deeds: issues.length ? [] : deeds.map(({ whole: _, ...deed }) => deed),
  issues,
})

/** Whether they may do it, as if they did it thing by thing; and nobody writes what the site is without. */
async function permit(
  tx: AnyDb,
  worker: Worker | undefined,
  draft: StoredContents,
  given: ReadonlyMap<string, Data>,
  { kind, key, does, file, line, whole }: PlannedDeed,
  plan: Plan,
): Promise<void> {
  const before = given.get(`${kind} ${key}`)
  try {
    if (does !== 'takes out') await refuseSwitchedOff(tx, kind, before ?? whole!)
    if (!worker) return
    if (before === undefined) return authoriseAddition(worker, kind, whole!)
    const seen = await permitLook(tx, worker, { kind, key, body: before })
    if (Object.keys(before).some(part => !seen(part))) throw new Problem('not-allowed')
    const [was, now] = [draft.get(kind, key)?.position, plan.puts.find(one => one.kind === kind && one.key === key)]
    if (does !== 'takes out')
      return await authoriseChange(tx, worker, kind, {
        key,
        before: { ...before, position: was },
        after: { ...whole, position: now?.position ?? was },
      })
    const owned = await ownersOfThing(tx, kind, key)
    await authoriseOwned(tx, worker, { kind: staffKindOf(kind, before), action: 'withdraw' }, owned)
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    plan.issues.push({ file, line, message: `The ${kindNames[kind]} “${key}”: ${error.message}` })
  }
}

/** Ends the transaction: nothing is to be written. */
class Stop extends Error {}

/** What is wrong with the whole: at the file of the thing it is said of, else as it is said. */
function told(problem: Problem, brought: readonly Brought[]): FileIssue[] {
  const issues = (problem.extra.issues ?? []) as { kind?: string; key?: string; at?: string; code?: IssueCode }[]
  const placed = issues.flatMap(({ kind, key, at = '', code }) => {
    const one = brought.find(other => other.kind === kind && other.key === key)
    const message = (code && issueCodes[code]) ?? problem.message
    return one ? [{ file: one.file, line: one.line(at.split('/').filter(Boolean)), message }] : []
  })
  const holder = brought.find(one => one.key === problem.extra.holder)
  if (holder) placed.push({ file: holder.file, line: holder.line(['path']), message: problem.message })
  return placed.length ? placed : [{ file: '', line: 1, message: problem.message }]
}

async function readFiles(files: ReadonlyMap<string, string>) {
  const brought: Brought[] = []
  const issues: FileIssue[] = []
  /** What has a file of its own: whatever stood in it before and is not in the file goes. */
  const holders = new Set<string>()
  const first = new Map<string, Brought>()
  const add = (one: Brought) => {
    const name = `${one.kind} ${one.key}`
    const before = first.get(name)
    if (!idPattern.test(one.key))
      issues.push({ file: one.file, line: one.line(['id']), message: 'An id has small letters, digits and dashes.' })
    else if (before)
      issues.push({ file: one.file, line: one.line(['id']), message: `“${one.key}” is in ${before.file} already.` })
    else {
      first.set(name, one)
      brought.push(one)
    }
  }
  const addParts = (
    file: string,
    parts: readonly PartTree[],
    place: Data,
    line: Brought['line'],
    path: (string | number)[],
    depth = 1,
  ): unknown =>
    depth > deepest
      ? issues.push({ file, line: line(path), message: `No more than ${deepest} can lie in one another.` })
      : parts.forEach((part, i) => {
          const at = [...path, 'parts', i]
          add({
            within: true,
            kind: 'block',
            key: part.key,
            thing: { ...part.thing, in: place },
            file,
            line: of => line([...at, ...of]),
          })
          addParts(file, part.parts, { block: part.key }, line, at, depth + 1)
        })
  const addMenu = (file: string, { menu, data, lines }: Extract<FileRead, { menu: string }>) => {
    const { entries = [], ...said } = data
    const line: Brought['line'] = path => lineIn(lines, path)
    holders.add(`menu ${menu}`)
    add({ within: false, kind: 'menu', key: menu, thing: said, file, line })
    if (!Array.isArray(entries)) issues.push({ file, line: line(['entries']), message: 'Entries are a list.' })
    else
      entries.forEach((entry: unknown, i) => {
        const { id = '', ...rest } = (entry ?? {}) as Data
        const at: Brought['line'] = of => line(['entries', i, ...of])
        add({ within: true, kind: 'menuItem', key: String(id), thing: { ...rest, menu }, file, line: at })
      })
  }
  const addPage = (file: string, { holds, page }: Extract<FileRead, { holds: unknown }>) => {
    const { head, lines, parts } = page
    const line: Brought['line'] = path => lineOfField(lines, path)
    const trees = parts.map(one => one.tree)
    if (typeof holds === 'object') {
      holders.add(`frame ${holds.frame}`)
      return addParts(file, trees, { frame: holds.frame }, line, [])
    }
    const { id = '', ...rest } = head
    holders.add(`${holds} ${String(id)}`)
    add({ within: false, kind: holds, key: String(id), thing: rest, file, line })
    return addParts(file, trees, { [holds]: id }, line, [])
  }
  for (const [file, source] of files) {
    const read = await readBeside('file', { file, source }).catch((error: unknown): FileRead => {
      if (!(error instanceof TookTooLong)) throw error
      return { issues: [{ file, line: 1, message: 'This took too long to read: divide it.' }] }
    })
    if ('issues' in read) issues.push(...read.issues)
    else if ('menu' in read) addMenu(file, read)
    else addPage(file, read)
  }
  return { brought, issues, holders }
}

/** The texts of what is brought, read before anything is locked; one that takes too long is an issue where it stands. */
async function readTexts(brought: readonly Brought[], issues: FileIssue[]): Promise<Map<Brought, TextReading>> {
  const found = new Map<Brought, TextReading>()
  for (const one of brought) {
    const text = textOf(one.thing)
    const reading = text === undefined ? null : await readTextBeside(text)
    if (reading === 'too long')
      issues.push({ file: one.file, line: one.line([]), message: 'Its text took too long to read: divide it.' })
    else if (reading) found.set(one, reading)
  }
  return found
}

/** What would lie deeper than anything may, by the draft as it would be. */
function tooDeep({ puts, deeds }: Plan, draft: StoredContents): FileIssue[] {
  const after = (draft as Contents).with(puts.map(one => ({ position: 0, ...one })))
  return deeds
    .filter(({ kind, key, does }) => does !== 'takes out' && depthOf(after, kind, key) > deepest)
    .map(({ file, line }) => ({ file, line, message: `No more than ${deepest} can lie in one another.` }))
    .slice(0, 1)
}

/** Puts names of stored pictures in place of paths; answers those that are not in the folder. */
function namePictures(one: Brought, pictures: ReadonlyMap<string, string>): FileIssue[] {
  const issues: FileIssue[] = []
  for (const { at, name: path } of picturesOf(one.kind, one.thing)) {
    const name = pictures.get(path)
    if (name !== undefined) one.thing = withPicture(one.thing, at, name)
    else issues.push({ file: one.file, line: one.line(at), message: `There is no picture “${path}” in the folder.` })
  }
  return issues
}

interface PlannedDeed extends Deed {
  /** As it would be. */ whole?: Data
}
interface Plan {
  deeds: PlannedDeed[]
  issues: FileIssue[]
  puts: Put[]
}

function planOf(
  given: ReadonlyMap<string, Data>,
  draft: StoredContents,
  {
    brought,
    holders,
    readings,
  }: { brought: readonly Brought[]; holders: ReadonlySet<string>; readings: ReadonlyMap<Brought, TextReading> },
): Plan {
  const plan: Plan = { deeds: [], issues: [], puts: [] }
  const lexicon = lexiconOf(draft.book, draft.index)
  const today = localTime(clockMs(), draft.index.site.timezone).date
  const names = new Set(brought.map(one => `${one.kind} ${one.key}`))
  const placed = positionsOf(draft, brought)
  for (const one of brought) {
    const { kind, key, file } = one
    const parsed = serverKinds[kind].input.safeParse(one.thing)
    if (!parsed.success) {
      for (const issue of parsed.error.issues)
        plan.issues.push({ file, line: one.line(issue.path as string[]), message: issue.message })
      continue
    }
    const whole = parsed.data as Data
    const problem = serverKinds[kind].problem?.(whole)
    if (problem) {
      plan.issues.push({ file, line: one.line(problem.at), message: problem.message })
      continue
    }
    const before = given.get(`${kind} ${key}`)
    const was = draft.get(kind, key)?.position
    const position = one.within ? placed.get(one) : was
    const same = before !== undefined && canonical(defined(before)) === canonical(defined(whole))
    const moved = before !== undefined && position !== was
    if (same && !moved) continue
    plan.deeds.push({
      file,
      line: one.line([]),
      does: before === undefined ? 'adds' : same ? 'moves' : 'changes',
      kind,
      key,
      whole,
    })
    const { body, content } = split(kind, { ...whole, ...keptOfText(whole, lexicon, today, readings.get(one)) })
    plan.puts.push({ kind, key, body: { id: key, ...body }, content, ...(position === undefined ? {} : { position }) })
  }
  for (const { kind, key } of draft.thingVersions) {
    if (names.has(`${kind} ${key}`) || !isKept(kind)) continue
    const holder = holderOf(draft, kind, key)
    if (!holder || !holders.has(holder)) continue
    plan.deeds.push({ file: '', line: 1, does: 'takes out', kind: kind as VersionedThing, key })
    plan.puts.push({ kind: kind as VersionedThing, key, body: null })
  }
  return plan
}

/** Between positions of things that stood beside each other there is room for very many. */
const step = 1e-4
/**
 * Where things stand that have an order in their file: those that are in it stay, another comes right after the one
 * before it, or right before the first that stays. None for new ones that come last.
 */
function positionsOf(draft: StoredContents, brought: readonly Brought[]): ReadonlyMap<Brought, number> {
  const beside = new Map<string, Brought[]>()
  for (const one of brought.filter(other => other.within)) {
    const { in: place, menu, under } = one.thing
    const name = JSON.stringify([one.kind, place ?? menu, under ?? null])
    beside.set(name, [...(beside.get(name) ?? []), one])
  }
  const found = new Map<Brought, number>()
  for (const list of beside.values()) {
    const was = list.map(one => draft.get(one.kind, one.key)?.position)
    const first = was.findIndex(one => one !== undefined)
    if (first < 0) continue
    let floor = was[first]! - step * (first + 1)
    list.forEach((one, i) => {
      const own = was[i]
      floor = own !== undefined && own > floor ? own : floor + step
      // The last of them that are new are put after all there is.
      if (own !== undefined || was.slice(i).some(other => other !== undefined)) found.set(one, floor)
    })
  }
  return found
}

const defined = (data: Data) =>
  Object.fromEntries(Object.entries(data).filter(([, value]) => value !== undefined && value !== ''))

/** The page, post, part of the frame or menu whose file a thing stands in. */
function holderOf(draft: StoredContents, kind: string, key: string): string | undefined {
  const { menu, in: place } = (draft.get(kind as VersionedThing, key)?.body ?? {}) as { menu?: string; in?: Data }
  if (menu !== undefined) return `menu ${menu}`
  const [on, id] = Object.entries(place ?? {})[0] ?? []
  if (on === undefined) return undefined
  if (on === 'frame' && !(frameParts as readonly string[]).includes(String(id))) return undefined
  return on === 'block' ? holderOf(draft, 'block', String(id)) : `${on} ${String(id)}`
}
