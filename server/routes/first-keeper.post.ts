import { defineEventHandler, sendRedirect } from 'h3'
import { db } from '../db/database'
import { problemOf } from '../problem'
import { parseWith, readText } from '../request'
import { firstKeeperInput, makeFirstKeeper } from '../services/set-up/first-keeper'
import { setSessionCookie } from '../services/entrance/sign-in-form'

export default defineEventHandler(async (event) => {
  const form = Object.fromEntries(new URLSearchParams(await readText(event)))
  try {
    setSessionCookie(event, await makeFirstKeeper(db(), parseWith(firstKeeperInput, form)))
    return sendRedirect(event, '/loft', 303)
  }
  catch (error) {
    const problem = problemOf(error)
    if (!problem) throw error
    return sendRedirect(event, `/first-keeper?${new URLSearchParams({ token: form.token ?? '', problem: problem.message, name: form.name ?? '', email: form.email ?? '' })}`, 303)
  }
})
