import { defineEventHandler, sendRedirect } from 'h3'
import { problemOf } from '../problem'
import { readForm } from '../request/body'
import { signInOver } from '../own-pages/sign-in-form'
import { wayBack } from '../../core/site/way-back'

const told: ReadonlySet<string> = new Set([
  'wrong-sign-in',
  'too-many-tries',
  'not-confirmed',
  'waiting',
  'suspended',
  'busy',
])

/** The form: on success to the landing, otherwise back to the form, which says what was wrong. */
export default defineEventHandler(async event => {
  const form = await readForm(event)
  const back = form.back && decodeURIComponent(wayBack(form.back))
  try {
    const { to } = await signInOver(event, {
      email: (form.email ?? '').slice(0, 320),
      password: (form.password ?? '').slice(0, 1000),
      ...(back ? { back } : {}),
    })
    return sendRedirect(event, to, 303)
  } catch (error) {
    const problem = problemOf(error)
    if (!problem || !told.has(problem.code)) throw error
    return sendRedirect(
      event,
      `/sign-in?${new URLSearchParams({ problem: problem.code, ...(back ? { back } : {}) })}`,
      303,
    )
  }
})
