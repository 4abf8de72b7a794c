/**
 * The live rules and site of this process, compiled; swapped as one when
 * anything is published or changed. That they are still the newest is not
 * believed of a listener but asked of the database, for every request.
 */
import { inTransaction } from '../../db/turn'
import { CompiledRules } from '../../../core/gates/compiled'
import { firm } from '../../db/schema'
import { connection, connect, databaseUrl, renewConnections } from '../../db/database'
import type { AnyDb, Connection, Tx } from '../../db/database'
import { log, logFault } from '../../log'
import { Problem } from '../../problem'
import { within } from '../../within'
import { changeChannel } from '../versions/notify'
import type { Moved } from '../versions/notify'
import { forgetSessions, hearsOfSessions, standingChannel } from '../standing/known-sessions'
import { contentsAt, draftContents, readState } from '../versions/versions'
import type { SiteState, StoredContents } from '../versions/versions'
import { readSettings } from '../settings/settings'
import type { SiteSettings } from '../settings/settings'
import { listForms } from '../forms/forms'
import type { Form } from '../forms/forms'
import { readStaffRules } from '../staff/staff-rules'
import type { StaffRule } from '../../../core/staff/staff-rule'

export interface Snapshot {
  edition: number
  /** What the edition holds, with the row each thing's content is read from. */
  contents: StoredContents
  rules: CompiledRules
  settings: SiteSettings
  /** What staff roles may do; holds at once, so live and draft share it. */
  staffRules: StaffRule[]
  /** Firms by name, for rules and sentences. */
  firms: { id: string; name: string }[]
  /** What people may apply for. */
  forms: Form[]
  /** What it was read at. */
  settingsVersion: number
}

/** Milliseconds. What was known this long ago is answered from; else it is asked anew. */
const freshMs = 250
/** Unconfirmed for longer, nothing is answered from it any more. */
const trustedMs = 5000
/** A request waits this long for the answer, then goes by what is trusted still. */
const patienceMs = 1000
/** The database does not answer: its line is dropped, and with it every other. */
const deafMs = 3000
const pulseMs = 1000

let live: Snapshot | undefined
let reading: Promise<Snapshot> | undefined
let again = false

/** When the question began whose answer was that `live` is the newest; on the process's own clock, which nobody sets back. */
let confirmedAt = Number.NEGATIVE_INFINITY
let asking: Promise<void> | undefined
let pulse: Connection | undefined

/** What was live when it was last read, for saying something while the database is away; none before that. */
export const lastSnapshot = (): Snapshot | undefined => live

const unconfirmedMs = () => performance.now() - confirmedAt

/** Seconds since the live rules were last known to be the newest. */
export const snapshotAge = () => unconfirmedMs() / 1000

/**
 * The snapshot every request of this moment is answered from. Take it once per
 * request. Throws `unavailable` when nobody has said for five seconds that it holds.
 */
export async function snapshot(): Promise<Snapshot> {
  const started = performance.now()
  for (let tries = 0; unconfirmedMs() > freshMs && tries < 2; tries++) {
    const known = unconfirmedMs()
    if (known > trustedMs && Number.isFinite(known) && asking) break
    const left = patienceMs - (performance.now() - started)
    if (left <= 0) break
    await within(left, confirm())
  }
  if (!live || unconfirmedMs() > trustedMs) throw new Problem('unavailable')
  return live
}

/** The same at once, where it was said to hold a moment ago; undefined where it takes a question. */
export const snapshotNow = (): Snapshot | undefined => (unconfirmedMs() <= freshMs ? live : undefined)

/** Asks whether `live` is the newest, and reads what is newer. One question at a time, shared by all who wait. */
function confirm(): Promise<void> {
  asking ??= ask().finally(() => {
    asking = undefined
  })
  return asking
}

async function ask(): Promise<void> {
  const began = performance.now()
  pulse ??= connect(databaseUrl(), 1, { name: 'bravik pulse' })
  const line = pulse
  const deaf = setTimeout(() => {
    log().warn('the database does not answer')
    pulse = undefined
    void line.drop().catch(() => {})
    renewConnections()
  }, deafMs)
  try {
    const state = await readState(line.db)
    clearTimeout(deaf)
    if (live?.edition !== state.live || live.settingsVersion !== state.settingsVersion) await reload()
    else confirmedAt = Math.max(confirmedAt, began)
  } finally {
    clearTimeout(deaf)
  }
}

/** Reads edition and content anew, in one consistent view; calls while one is under way are followed by one more. */
export async function reload(): Promise<Snapshot> {
  if (reading) {
    again = true
    return reading
  }
  reading = readUntilQuiet().finally(() => {
    reading = undefined
  })
  return reading
}

async function readUntilQuiet(): Promise<Snapshot> {
  do {
    again = false
    const began = performance.now()
    live = await readSnapshot(live)
    confirmedAt = Math.max(confirmedAt, began)
  } while (again)
  return live!
}

type Part = Pick<Snapshot, 'settings' | 'staffRules' | 'firms' | 'forms' | 'settingsVersion'>

/** Everything that holds at once, whatever the edition; only what moved is read. */
async function readStanding(tx: AnyDb, state: SiteState, known: Part | undefined): Promise<Part> {
  const { settingsVersion } = state
  if (known?.settingsVersion === settingsVersion) {
    const { settings, staffRules, firms, forms } = known
    return { settings, staffRules, firms, forms, settingsVersion }
  }
  return {
    settings: await readSettings(tx),
    staffRules: await readStaffRules(tx),
    firms: await tx.select({ id: firm.id, name: firm.name }).from(firm),
    forms: await listForms(tx),
    settingsVersion,
  }
}

/** Rules compiled once for what an edition holds. */
const compiled = new WeakMap<StoredContents, CompiledRules>()
function rulesOf(contents: StoredContents): CompiledRules {
  let rules = compiled.get(contents)
  if (!rules) {
    rules = new CompiledRules(contents.book, contents.index)
    compiled.set(contents, rules)
  }
  return rules
}

/** In one consistent view, which no change comes between. */
const inOneView = <T>(work: (tx: Tx) => Promise<T>) =>
  inTransaction(connection().db, work, { isolationLevel: 'repeatable read', accessMode: 'read only' })

const readSnapshot = (known?: Snapshot): Promise<Snapshot> =>
  inOneView(async tx => {
    const state = await readState(tx)
    const isSame = known?.edition === state.live && known.settingsVersion === state.settingsVersion
    return isSame ? known : { ...(await at(tx, state, state.live)), ...(await readStanding(tx, state, known)) }
  })

async function at(tx: AnyDb, state: SiteState, edition: number) {
  const contents = await contentsAt(tx, state, edition)
  return { edition, contents, rules: rulesOf(contents) }
}

let draft: { of: string; snapshot: Snapshot } | undefined

/** The draft as it is now. Compiled anew only where it moved since. */
export const draftSnapshot = (): Promise<Snapshot> =>
  inOneView(async tx => {
    const state = await readState(tx)
    const of = [state.database, state.live, state.draftVersion, state.settingsVersion].join(' ')
    if (draft?.of !== of) {
      const contents = await draftContents(tx, state)
      const standing = await readStanding(tx, state, live)
      draft = { of, snapshot: { edition: state.live + 1, contents, rules: rulesOf(contents), ...standing } }
    }
    return draft.snapshot
  })

/** An edition as it was: its rules and things, under what holds at once today. Throws `not-found` for one that was never published. */
export const editionSnapshot = (edition: number): Promise<Snapshot> =>
  inOneView(async tx => {
    const state = await readState(tx)
    if (edition < 1 || edition > state.live) throw new Problem('no-such-edition', { edition })
    return { ...(await at(tx, state, edition)), ...(await readStanding(tx, state, live)) }
  })

const beatChannel = 'bravik_beat'
const beatMs = 4000
const missedBeats = 2

/**
 * Hears of changes the moment they are made, so that the next request finds
 * them read already. A listener that does not hear its own heartbeat is
 * replaced; until then, and without one at all, requests ask for themselves.
 */
class Listener {
  private line: Connection | undefined
  private unheard = 0
  private stopped = false
  private readonly id = `${process.pid}-${Math.random().toString(36).slice(2)}`
  private readonly timer = setInterval(() => void this.beat(), beatMs)

  constructor() {
    this.timer.unref()
  }

  async start(): Promise<void> {
    const line = connect(databaseUrl(), 1, { name: 'bravik listen' })
    this.line = line
    this.unheard = 0
    const catchUp = () => void reload().catch(error => logFault('could not read the changed rules', error))
    // A draft is read when somebody asks for it.
    const heard = (moved: string) => ((moved as Moved) === 'draft' ? undefined : catchUp())
    await line.sql.listen(changeChannel, heard, catchUp)
    await line.sql.listen(standingChannel, forgetSessions, forgetSessions)
    await line.sql.listen(beatChannel, id => {
      if (id !== this.id) return
      this.unheard = 0
      hearsOfSessions(true)
    })
    hearsOfSessions(true)
  }

  private async beat(): Promise<void> {
    if (this.stopped) return
    if (this.unheard > 0) hearsOfSessions(false)
    if (this.unheard++ < missedBeats)
      return void connection().sql`select pg_notify(${beatChannel}, ${this.id})`.catch(() => {})
    log().warn('the listener heard nothing and is replaced')
    const old = this.line
    void old?.drop().catch(() => {})
    await this.start().catch(error => logFault('could not listen', error))
  }

  async stop(): Promise<void> {
    this.stopped = true
    hearsOfSessions(false)
    clearInterval(this.timer)
    await this.line?.drop().catch(() => {})
  }
}

let listener: Listener | undefined
let pulseTimer: ReturnType<typeof setInterval> | undefined

/** Listens for changes, and keeps what is known fresh while nobody asks. */
export async function follow(): Promise<void> {
  listener ??= new Listener()
  pulseTimer ??= setInterval(() => {
    if (unconfirmedMs() >= pulseMs) confirm().catch(() => {})
  }, pulseMs / 2)
  pulseTimer.unref()
  await listener.start()
}

export async function unfollow(): Promise<void> {
  clearInterval(pulseTimer)
  pulseTimer = undefined
  await listener?.stop()
  listener = undefined
  await pulse?.drop().catch(() => {})
  pulse = undefined
}
