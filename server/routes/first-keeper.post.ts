import { defineEventHandler, sendRedirect } from 'h3'
import { db } from '../db/database'
import { problemOf } from '../problem'
import { networkOf } from '../forwarded'
import { parseWith } from '../parse-with'
import { readForm } from '../request/body'
import { countTry } from '../services/secrets/throttle'
import { firstKeeperInput, makeFirstKeeper } from '../services/set-up/first-keeper'
import { setSessionCookie } from '../own-pages/sign-in-form'

/** It goes back in a header. */
const cut = (text = '') => text.slice(0, 200)

export default defineEventHandler(async event => {
  const form = await readForm(event)
  try {
    await countTry(db(), [{ what: 'firstKeeperFrom', of: networkOf(event), most: 20, windowMs: 3_600_000 }], 'tries')
    setSessionCookie(event, await makeFirstKeeper(db(), parseWith(firstKeeperInput, form)))
    return sendRedirect(event, '/loft', 303)
  } catch (error) {
    const problem = problemOf(error)
    if (!problem) throw error
    const told = problem.extra.at === '/password' ? 'weak-password' : problem.code
    return sendRedirect(
      event,
      `/first-keeper?${new URLSearchParams({ token: cut(form.token), problem: told, name: cut(form.name), email: cut(form.email) })}`,
      303,
    )
  }
})
