import { defineEventHandler, sendNoContent } from 'h3'
import { signOutOver } from '../own-pages/sign-in-form'

export default defineEventHandler(async event => {
  await signOutOver(event)
  return sendNoContent(event)
})
