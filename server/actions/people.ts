/** Actions on people: what they are, hold and ask for. */
import { formInput, listForms, saveForm } from '../services/forms/forms'
import { getQuery, setResponseHeaders } from 'h3'
import { afterCommit, inTransaction } from '../db/turn'
import { reload } from '../services/live/snapshot'
import { z } from 'zod'
import { mayStaff } from '../../core/staff/staff-rule'
import type { StaffRights } from '../../core/staff/staff-rule'
import { parseWith } from '../parse-with'
import { Problem } from '../problem'
import { mostInteger, numberParam, readBytes, readQueryJson } from '../request/body'
import { staffCallerIn } from '../request/staff-caller'
import type { StaffCaller } from '../request/staff-caller'
import { agentOf } from '../agent'
import { weaknessOf } from '../services/secrets/password-strength'
import { endSessions, sessionsOf } from '../services/entrance/sessions'
import { decideSignUp, invite } from '../services/entrance/sign-up'
import { emailAddress } from '../services/entrance/sign-up-form'
import { membershipsOf } from '../services/memberships/memberships'
import { paidBy } from '../services/memberships/purchases'
import { applicationsOf, decideApplication, decisionInput, waitingApplications } from '../services/people/applications'
import { applyBulk, bulkApply, bulkInput, previewBulk, recentBulk, undoBulk } from '../services/people/bulk'
import type { BulkInput } from '../services/people/bulk'
import {
  authorisePeopleQuery,
  authoriseSeeing,
  authoriseSeeingWhole,
  searchedBy,
  seenPerson,
  seesPeople,
  seesWhole,
} from '../services/staff/people-seen'
import type { PeopleField } from '../services/staff/people-seen'
import { listInvitations, revokeInvitation } from '../services/people/invitations'
import { giveHolding, holdingInput, takeHolding } from '../services/people/holdings'
import { countCrossings } from '../services/people/crossings'
import type { Condition } from '../../core/conditions/condition'
import {
  addNote,
  addPerson,
  changePerson,
  countEach,
  countsQuery,
  fieldsOf,
  listedPerson,
  listPeople,
  lockedPerson,
  notesOf,
  peopleQuery,
  personChange,
  personInput,
  removePerson,
} from '../services/people/people'
import { findNames } from '../services/staff/names'
import { decodeCsv } from '../services/csv/read-csv'
import { authoriseImport, exportPeople, importPeople, planImport } from '../services/people/people-csv'
import { visitorOf } from '../services/standing/visitor-of'
import { authorise } from '../services/staff/authorise'
import { authoriseOverPerson, powerOf } from '../services/staff/staff-grants'
import { leaveTrace } from '../trace'
import { change, look, made, on, steps } from './action'

const worldOf = ({ snapshot, nowMs }: StaffCaller) => ({ rules: snapshot.rules, nowMs })
/** Whoever picks people by a question learns whom it fits. */
function authoriseChoice(rights: StaffRights, { who }: BulkInput): void {
  if (!('query' in who)) return
  authorisePeopleQuery(rights, who.query)
  if (who.query.search) authoriseSeeing(rights, 'name', 'address')
}
const csvBytes = 20 * 1_048_576

export const peopleActions = {
  /** People by name, a page at a time; `q` is a query in JSON. */
  'GET people': look({
    right: on('people', 'look'),
    input: z.object({ q: z.string().optional() }),
    run: async ask => {
      const query = parseWith(peopleQuery, readQueryJson(ask.event))
      authorisePeopleQuery(ask.rights, query)
      const { people, ...rest } = await listPeople(ask.db, query, {
        ...worldOf(ask),
        ...searchedBy(ask.rights, query),
      })
      return { people: people.map(one => seenPerson(ask.rights, one)), ...rest }
    },
  }),
  /** Who holds which level and which visitor role, and how many both. */
  'GET people/crossings': look({
    right: on('people', 'look', ['levels', 'roles']),
    run: ask => countCrossings(ask.db, worldOf(ask)),
  }),
  /** How many people each of some conditions is true for, in their order; `q` is a list of them in JSON. Null: it cannot be asked of a list. */
  'GET people/counts': look({
    right: on('people', 'look'),
    input: z.object({ q: z.string().optional() }),
    run: async ask => {
      const conditions = parseWith(countsQuery, readQueryJson(ask.event)) as Condition[]
      for (const condition of conditions) authorisePeopleQuery(ask.rights, { condition })
      return countEach(ask.db, conditions, worldOf(ask))
    },
  }),
  'POST people': change({
    right: on('people', 'add', ['name', 'address']),
    input: personInput,
    run: async ask => {
      const weakness = await weaknessOf(ask.input.password, [ask.input.name, ask.input.email])
      if (weakness) throw new Problem('weak-password', { why: weakness }, { at: '/password' })
      return made(ask, { id: await addPerson(ask.db, ask.input, ask.actor) })
    },
  }),
  /** Everything staff may know of one person, and who they are to the rules. */
  'GET people/:id': look({
    right: on('people', 'look'),
    run: async ({ db, rights, params: { id = '' } }) => {
      const looks = mayStaff(rights, { kind: 'orders', action: 'look' }).allowed
      const sees = (field: PeopleField) => seesPeople(rights, field)
      const [person, visitor, memberships, purchases, applications, sessions, notes] = await Promise.all([
        listedPerson(db, id),
        // Who they are to the rules tells all of it.
        seesWhole(rights) ? visitorOf(db, id) : null,
        sees('levels') ? membershipsOf(db, id) : [],
        // Of which level it was is told to who may look at levels.
        looks && sees('levels') ? paidBy(db, id) : [],
        sees('standing') ? applicationsOf(db, id) : [],
        sees('standing') ? sessionsOf(db, id) : [],
        sees('notes') ? notesOf(db, id) : [],
      ])
      return {
        person: seenPerson(rights, person),
        visitor,
        // What was paid is told to who may look at orders.
        memberships: looks ? memberships : memberships.map(one => ({ ...one, paidAmount: null })),
        purchases,
        applications,
        sessions: sessions.map(({ network: _network, ...one }) => ({ ...one, agent: agentOf(one.agent).name })),
        notes,
      }
    },
  }),
  'PUT people/:id': change({
    right: on('people', 'change'),
    input: personChange,
    run: async ({ db, input, params: { id = '' }, actor, rights, snapshot }) => {
      await changePerson(db, id, input, actor, async tx => {
        authorise(rights, { kind: 'people', action: 'change', fields: fieldsOf(input) })
        if (input.email !== undefined || input.suspended !== undefined)
          await authoriseOverPerson(tx, rights, powerOf(snapshot), id)
      })
    },
  }),
  'DELETE people/:id': change({
    right: on('people', 'withdraw'),
    run: async ({ db, params: { id = '' }, actor, rights, snapshot }) => {
      await removePerson(db, id, actor, tx => authoriseOverPerson(tx, rights, powerOf(snapshot), id))
    },
  }),
  'POST people/:id/holdings': change({
    right: on('people', 'change'),
    input: holdingInput,
    run: async ask => void (await giveHolding(ask.db, ask, ask.params.id!, ask.input, ask.actor)),
  }),
  'DELETE people/:id/holdings': change({
    right: on('people', 'change'),
    input: z.union([
      z.strictObject({ membership: z.int().min(1).max(mostInteger) }),
      z.strictObject({ role: z.string() }),
    ]),
    run: async ask => void (await takeHolding(ask.db, ask, ask.params.id!, ask.input, ask.actor)),
  }),
  'POST people/:id/notes': change({
    right: on('people', 'change', ['notes']),
    input: z.strictObject({ text: z.string().trim().min(1, 'A note says something.').max(5000) }),
    run: async ask => void (await addNote(ask.db, ask.params.id!, ask.input.text, ask.actor)),
  }),
  'POST people/:id/decision': change({
    right: on('people', 'change', ['standing']),
    input: z.discriminatedUnion('approve', [
      z.strictObject({ approve: z.literal(true), roles: z.array(z.string().max(200)).max(20).optional() }),
      z.strictObject({ approve: z.literal(false), words: z.string().max(2000).default('') }),
    ]),
    run: async ({ db, input, params, actor, rights, nowMs, snapshot: { rules, settings } }) => {
      if (input.approve && input.roles?.length)
        authorise(rights, { kind: 'people', action: 'change', fields: ['roles'] })
      await decideSignUp(db, { rules, settings, nowMs }, params.id!, input, actor)
    },
  }),
  /** Signs a person out everywhere. */
  'DELETE people/:id/sessions': change({
    right: on('people', 'change', ['standing']),
    run: async ({ db, params: { id = '' }, actor, rights, snapshot }) => {
      await inTransaction(db, async tx => {
        await lockedPerson(tx, id)
        await authoriseOverPerson(tx, rights, powerOf(snapshot), id)
        const ended = await endSessions(tx, id, { allBut: null })
        await leaveTrace(tx, actor, 'person.end-sessions', `person ${id}`, { ended })
      })
    },
  }),

  'POST people/invite': change({
    right: on('people', 'add', ['address']),
    input: z.strictObject({
      email: emailAddress,
      levels: z.array(z.string()).max(20).default([]),
      roles: z.array(z.string()).max(20).default([]),
      firm: z.string().optional(),
    }),
    run: async ({ db, input: { firm, ...asked }, actor, rights }) => {
      // What an invitation brings is given, so it takes the right to give it.
      const fields = [...(asked.levels.length ? ['levels'] : []), ...(asked.roles.length ? ['roles'] : [])]
      if (fields.length) authorise(rights, { kind: 'people', action: 'change', fields })
      if (firm) authorise(rights, { kind: 'firms', action: 'change' })
      await invite(db, { ...asked, ...(firm ? { firm } : {}) }, actor)
    },
  }),
  /** Invitations that can still be taken up. */
  'GET people/invitations': look({
    right: on('people', 'look'),
    run: ask => {
      authoriseSeeing(ask.rights, 'address')
      return listInvitations(ask.db, ask.snapshot.rules.rulebook)
    },
  }),
  'DELETE people/invitations/:id': change({
    right: on('people', 'change', ['address']),
    run: async ask => void (await revokeInvitation(ask.db, ask, ask.params.id!, ask.actor)),
  }),

  /** Persons and firms by the beginning of a name, as far as they may be told. */
  'GET names': look({
    right: 'staff',
    input: z.object({ q: z.string().trim().min(1).max(100) }),
    run: ask => findNames(ask.db, ask.rights, ask.input.q),
  }),
  'GET people/bulk': look({ right: on('people', 'look'), run: ask => recentBulk(ask.db) }),
  'POST people/bulk': change({
    right: on('people', 'change'),
    input: bulkApply,
    run: ask => {
      authoriseChoice(ask.rights, ask.input)
      return applyBulk(ask.db, ask, ask.input, ask.actor)
    },
  }),
  'POST people/bulk/preview': look({
    right: on('people', 'change'),
    input: bulkInput,
    run: ask => {
      // Whom a question fits is told, by name and number, to who may look at people.
      authoriseSeeing(ask.rights, 'name')
      authoriseChoice(ask.rights, ask.input)
      return previewBulk(ask.db, worldOf(ask), ask.input)
    },
  }),
  'POST people/bulk/:id/undo': change({
    right: on('people', 'change'),
    run: async ask => void (await undoBulk(ask.db, ask, numberParam(ask.event, 'id'), ask.actor)),
  }),

  /** The body is the CSV file itself. `?dry=1` only looks: what would be taken over, and what is wrong where. */
  'POST people/import': steps({
    right: on('people', 'add', ['name', 'address']),
    run: async ({ db, event, rights, snapshot }) => {
      const text = decodeCsv(await readBytes(event, csvBytes))
      // Reading takes its time: whoever was let go meanwhile brings nobody in.
      if (getQuery(event).dry === undefined)
        return { people: await importPeople(db, tx => staffCallerIn(tx, event), text), problems: [] }
      const plan = await planImport(db, snapshot.rules.rulebook, text)
      authoriseImport(rights, plan.rows)
      return { people: plan.rows.length, problems: plan.problems.slice(0, 200), sample: plan.rows.slice(0, 5) }
    },
  }),
  'GET people/export': look({
    right: on('people', 'look'),
    run: async ({ db, event, actor, rights, snapshot }) => {
      authoriseSeeingWhole(rights)
      setResponseHeaders(event, {
        'content-type': 'text/csv;charset=utf-8',
        'content-disposition': 'attachment; filename="people.csv"',
      })
      await leaveTrace(db, actor, 'people.export', 'people')
      return exportPeople(db, snapshot.rules.rulebook)
    },
  }),

  /** Who waits to be looked at. */
  'GET queues': look({
    right: on('people', 'look'),
    run: async ask => {
      authoriseSeeing(ask.rights, 'standing')
      const [signUps, unconfirmed, applications] = await Promise.all([
        listPeople(ask.db, { standing: 'waiting' }, worldOf(ask)),
        listPeople(ask.db, { standing: 'unconfirmed' }, worldOf(ask)),
        waitingApplications(ask.db),
      ])
      const sees = seesPeople(ask.rights, 'name', 'address')
      return {
        signUps: signUps.people.map(one => seenPerson(ask.rights, one)),
        unconfirmed: unconfirmed.count,
        // What somebody wrote about themselves is told to who may look at who they are.
        applications: sees ? applications : [],
      }
    },
  }),
  'GET forms': look({ right: on('people', 'look'), run: ask => listForms(ask.db) }),
  'PUT forms/:target': change({
    right: on('roles', 'change'),
    input: formInput,
    run: async ask => {
      await saveForm(ask.db, ask.params.target!, ask.input, ask.actor)
      await afterCommit(reload)
    },
  }),
  'POST applications/:id': change({
    right: on('people', 'change'),
    input: decisionInput,
    run: async ask => void (await decideApplication(ask.db, ask, numberParam(ask.event, 'id'), ask.input, ask.actor)),
  }),
}
