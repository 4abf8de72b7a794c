import { defineEventHandler, sendRedirect } from 'h3'
import { readText } from '../request/body'
import { signOutOver } from '../own-pages/sign-in-form'

export default defineEventHandler(async event => {
  await readText(event)
  return sendRedirect(event, await signOutOver(event), 303)
})
