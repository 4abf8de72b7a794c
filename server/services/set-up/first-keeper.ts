/** The one-time link that makes the first keeper of an empty site. */
import { inTransaction } from '../../db/turn'
import { eq } from 'drizzle-orm'
import { z } from 'zod'
import { clockDate } from '../../clock'
import type { AnyDb } from '../../db/database'
import { oneTimeLink, person, roleGrant } from '../../db/schema'
import { Problem } from '../../problem'
import { hashPassword } from '../secrets/passwords'
import { bookAt, readState } from '../versions/versions'
import { brokenLink, makeLink, peekLink, useLink } from '../secrets/one-time-links'
import { weaknessOf } from '../secrets/password-strength'
import { startSession } from '../entrance/sessions'
import { emailAddress, password, personName } from '../entrance/sign-up-form'
import { newId } from '../secrets/tokens'
import { leaveTrace } from '../../trace'

const purpose = 'first-keeper'

export const firstKeeperInput = z.strictObject({
  token: z.string().min(1),
  name: personName,
  email: emailAddress,
  password,
})

/** A fresh link's token, good for a day; earlier ones stop working. */
export async function makeFirstKeeperLink(db: AnyDb): Promise<string> {
  await db.delete(oneTimeLink).where(eq(oneTimeLink.purpose, purpose))
  return makeLink(db, { purpose, personId: null, data: {} })
}

/** Makes the keeper and signs them in; returns the session token. */
export async function makeFirstKeeper(db: AnyDb, input: z.infer<typeof firstKeeperInput>): Promise<string> {
  // Looked at first: hashing is slow, and anybody can send tokens that are none.
  if (!(await peekLink(db, input.token, purpose))) throw brokenLink()
  const weakness = await weaknessOf(input.password, [input.name, input.email])
  if (weakness) throw new Problem('weak-password', { why: weakness }, { at: '/password' })
  const passwordHash = await hashPassword(input.password)
  return inTransaction(db, async tx => {
    await useLink(tx, input.token, purpose)
    const role = (await bookAt(tx, (await readState(tx)).live)).settings?.masterKeys?.[0]
    if (!role) throw new Problem('no-master-key')
    const id = newId('p')
    await tx.insert(person).values({
      id,
      name: input.name,
      email: input.email,
      passwordHash,
      confirmedAt: clockDate(),
      approvedAt: clockDate(),
    })
    await tx.insert(roleGrant).values({ personId: id, role, grantedBy: 'first-keeper link' })
    await leaveTrace(tx, { id, name: input.name }, 'person.first-keeper', `person ${id}`)
    return startSession(tx, id)
  })
}
