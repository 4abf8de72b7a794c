/** Actions on rules, the draft and editions. */
import { askedLately } from '../services/activity/asked-addresses'
import { besideDb, db } from '../db/database'
import { ask as askForJob } from '../jobs/jobs'
import { logFault } from '../log'
import { indexSearch } from '../services/search/index-texts'
import { longestSearch } from '../../core/search/asked'
import { searchAsStaff } from '../services/console/search-staff'
import { afterCommit, inTransaction } from '../db/turn'
import { z } from 'zod'
import { entryKinds } from '../../core/rulebook/rulebook'
import type { EntryKind } from '../../core/rulebook/rulebook'
import { isEntryKind, isThingKind } from '../../core/editions/contents'
import type { VersionedKind } from '../../core/editions/contents'
import { thingStaffKinds } from '../../core/staff/thing-kind'
import { visitor } from '../../core/visitor/visitor'
import { walkMinutes, makeWalkToken } from '../services/entrance/walk-token'
import { authoriseWalk } from '../services/entrance/walk-rights'
import { readStart, readEdition } from '../services/console/start'
import { removeEntry, saveEntry, moveEntry, undoChange } from '../services/editions/entries'
import { bringBack, historyOf } from '../services/editions/history'
import { permitEntry, permitUndo } from '../services/editions/entry-rights'
import { listPlanned, planEdition, withdrawPlan } from '../services/editions/planned'
import { authorisePublication, listEditions, publish } from '../services/editions/publish'
import { compareChange } from '../services/editions/compare'
import { planRollBack, rollBack } from '../services/editions/roll-back'
import { draftSnapshot, editionSnapshot, reload } from '../services/live/snapshot'
import { doSteps, expected, stepsInput, textsOf } from '../services/editions/steps'
import { takeBack } from '../services/editions/taken-back'
import { readAhead } from '../reading/read-ahead'
import { savedAnswer } from '../services/editions/saved-answer'
import { Problem } from '../problem'
import { within } from '../within'
import { leaveTrace } from '../trace'
import { numberParam } from '../request/body'
import { change, look, on, oneOf } from './action'
import type { Ask } from './action'

const ruleKinds = ['levels', 'roles', 'gates', 'offers', 'tax', 'delivery', 'landings', 'settings-sign-up'] as const
const versioned = [...ruleKinds, ...thingStaffKinds, 'prices'] as const

const chosen = z.array(z.string().max(300)).max(100_000).nullable().optional()

function entryPlace({ params }: Ask<unknown>): { kind: EntryKind; key: string } {
  const { kind = '', key = '' } = params
  if (!Object.hasOwn(entryKinds, kind)) throw new Problem('no-such-entry-kind', { kind })
  return { kind: kind as EntryKind, key }
}

function versionedPlace({ params }: Ask<unknown>): { kind: VersionedKind; key: string } {
  const { kind = '', key = '' } = params
  if (!isEntryKind(kind) && !isThingKind(kind)) throw new Problem('no-such-kind', { kind })
  return { kind: kind as VersionedKind, key }
}

/** Milliseconds somebody who published waits for it to be found; on a very large site it is found a little later. */
const foundWithinMs = 1000

/** What was published is live here before whoever published it hears so, and found. */
async function published(): Promise<void> {
  await reload()
  const found = inTransaction(besideDb(), tx => indexSearch(tx))
    .catch(error => logFault('search', error))
    .then(() => askForJob('search'))
  await within(foundWithinMs, found)
}

export const editionActions = {
  /** What the console starts from: site, live and draft rules, what changed, as far as the person may look. */
  'GET start': look({
    right: 'staff',
    // The role it is looked at as stands in the address too: browsers answer by address from what they fetched ahead.
    input: z.object({ role: z.string().max(200).optional() }),
    run: ask => readStart(ask.db, ask.decider, ask, ask.actor),
  }),

  /** What the words of the live site say, as far as the person may look at them. */
  'GET search': look({
    right: 'staff',
    input: z.object({ q: z.string().max(longestSearch) }),
    run: ask => searchAsStaff(ask.db, ask, { snapshot: ask.snapshot, text: ask.input.q }),
  }),
  /** Addresses of the site that were asked for lately. */
  'GET asked-addresses': look({ right: on('gates', 'look'), run: ask => askedLately(ask.db) }),
  'GET editions': look({ right: on('gates', 'look'), run: ask => listEditions(ask.db) }),
  /** An edition as it was, for its board. */
  'GET editions/:number': look({
    right: on('gates', 'look'),
    run: ask => readEdition(ask.db, ask, numberParam(ask.event, 'number')),
  }),
  'POST editions/:number/roll-back': change({
    right: oneOf(versioned, 'change'),
    input: z.strictObject({ chosen, atOnce: z.boolean().default(false), expects: z.int() }),
    ahead: (_, { number }) => planRollBack(db(), Number(number)),
    run: async ask => {
      const done = await rollBack(ask.db, ask, numberParam(ask.event, 'number'), ask.input, ask.actor)
      if (done.edition !== null) await afterCommit(published)
      return done
    },
  }),

  'POST publish': change({
    right: oneOf(versioned, 'publish', 'change'),
    input: z.strictObject({ note: z.string().max(2000), expects: z.int(), chosen }),
    run: async ask => {
      const edition = await publish(ask.db, {
        ...ask.input,
        actor: ask.actor,
        authorise: (turn, publication) => authorisePublication(ask, turn, publication),
      })
      // The other servers hear of it by themselves; this one obeys before it answers.
      await afterCommit(published)
      return { edition }
    },
  }),
  'GET planned': look({ right: oneOf(versioned, 'look'), run: ask => listPlanned(ask.db) }),
  'POST planned': change({
    right: oneOf(versioned, 'publish', 'change'),
    input: z.strictObject({ at: z.iso.datetime({ offset: true }), note: z.string().max(2000), chosen }),
    run: ask => planEdition(ask.db, ask, ask.input, ask.actor),
  }),
  'DELETE planned/:id': change({
    right: oneOf(versioned, 'publish', 'change'),
    run: ask => withdrawPlan(ask.db, ask, numberParam(ask.event, 'id'), ask.actor),
  }),

  'PUT entries/:kind/:key': change({
    right: oneOf(ruleKinds, 'add', 'change'),
    input: z.strictObject({ body: z.unknown(), expects: expected }),
    run: async ask => {
      const place = entryPlace(ask)
      const { body, expects } = ask.input
      const permit = permitEntry(ask.rights)
      const changed = await saveEntry(ask.db, { ...place, body, expects, actor: ask.actor, permit })
      return savedAnswer(ask, changed)
    },
  }),
  'DELETE entries/:kind/:key': change({
    right: oneOf(ruleKinds, 'withdraw', 'change'),
    input: z.strictObject({ expects: expected }),
    run: async ask => {
      const permit = permitEntry(ask.rights)
      const changed = await removeEntry(ask.db, { ...entryPlace(ask), ...ask.input, actor: ask.actor, permit })
      return savedAnswer(ask, changed)
    },
  }),
  'POST entries/:kind/:key/undo': change({
    right: oneOf(ruleKinds, 'change'),
    run: async ask => {
      const place = entryPlace(ask)
      const permit = permitUndo(ask.rights, place)
      return savedAnswer(ask, await undoChange(ask.db, { ...place, actor: ask.actor, permit }))
    },
  }),
  /** What a change of the draft does to its words. */
  'GET entries/:kind/:key/compare': look({
    right: oneOf(versioned, 'look'),
    run: ask => compareChange(ask.db, ask, versionedPlace(ask)),
  }),
  'GET entries/:kind/:key/history': look({
    right: oneOf(versioned, 'look'),
    run: ask => historyOf(ask.db, ask, versionedPlace(ask)),
  }),
  'POST entries/:kind/:key/bring-back': change({
    right: oneOf(versioned, 'change'),
    input: z.strictObject({ version: z.int() }),
    run: async ask => {
      const changed = await bringBack(ask.db, ask, { ...versionedPlace(ask), ...ask.input }, ask.actor)
      return savedAnswer(ask, changed)
    },
  }),
  /** What is done in one breath: ordered steps, one change, which is taken back as one. */
  'POST draft/steps': change({
    right: oneOf(versioned, 'add', 'change', 'withdraw'),
    input: stepsInput,
    async ahead({ steps }) {
      for (const one of steps) await readAhead(textsOf(one))
    },
    run: async ask => savedAnswer(ask, await doSteps(ask.db, ask, ask.input.steps, ask.actor)),
  }),
  /** Takes a step of one's own back. What it answers can be taken back as well. */
  'POST draft/steps/:id/back': change({
    right: oneOf(versioned, 'add', 'change', 'withdraw'),
    run: async ask => savedAnswer(ask, await takeBack(ask.db, ask, numberParam(ask.event, 'id'), ask.actor)),
  }),
  'POST taxes/order': change({
    right: on('tax', 'change'),
    // The entry it comes before; null: last. Of rates and terms the earlier counts.
    input: z.strictObject({
      kind: z.enum(['rate', 'exception', 'goods', 'shown']),
      key: z.string(),
      before: z.string().nullable(),
    }),
    run: async ask => {
      const changed = await moveEntry(ask.db, { ...ask.input, actor: ask.actor, permit: permitEntry(ask.rights) })
      return savedAnswer(ask, changed)
    },
  }),
  'POST deliveries/order': change({
    right: on('delivery', 'change'),
    // The way it comes before; null: last. Buyers are offered them in this order.
    input: z.strictObject({ key: z.string(), before: z.string().nullable() }),
    run: async ask => {
      const moved = { ...ask.input, kind: 'delivery' as const, actor: ask.actor, permit: permitEntry(ask.rights) }
      return savedAnswer(ask, await moveEntry(ask.db, moved))
    },
  }),
  'POST landings/order': change({
    right: on('landings', 'change'),
    // The landing it comes before; null: last.
    input: z.strictObject({ key: z.string(), before: z.string().nullable() }),
    run: async ask => {
      const changed = await moveEntry(ask.db, {
        kind: 'landing',
        ...ask.input,
        actor: ask.actor,
        permit: permitEntry(ask.rights),
      })
      return savedAnswer(ask, changed)
    },
  }),

  /** A pass to see the site as a kind of visitor, at an edition or the draft: for this session, for a quarter of an hour. */
  'POST walk': look({
    right: on('gates', 'look'),
    input: z.strictObject({
      tier: z.string().max(200),
      visitor,
      draft: z.boolean(),
      edition: z.int().min(1).optional(),
    }),
    run: async ask => {
      const { input, snapshot, rights, signedIn, nowMs } = ask
      const walked =
        input.edition !== undefined
          ? await editionSnapshot(input.edition)
          : input.draft
            ? await draftSnapshot()
            : snapshot
      const real = await authoriseWalk(ask.db, rights, snapshot, walked.rules.rulebook, input.visitor)
      if (real) await leaveTrace(ask.db, ask.actor, 'person.look-as', `person ${real}`)
      const expires = nowMs + walkMinutes * 60_000
      return { base: `/walk/${makeWalkToken({ ...input, session: signedIn.sessionId, expires })}`, expires }
    },
  }),
}
