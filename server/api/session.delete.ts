import { defineEventHandler, sendNoContent } from 'h3'
import { signOutOver } from '../services/entrance/sign-in-form'

export default defineEventHandler(async event => {
  await signOutOver(event)
  return sendNoContent(event)
})
