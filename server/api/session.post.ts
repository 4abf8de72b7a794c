import { defineEventHandler } from 'h3'
import { z } from 'zod'
import { readJson } from '../request/body'
import { signInOver } from '../own-pages/sign-in-form'

const input = z.strictObject({ email: z.string().min(1).max(320), password: z.string().min(1).max(1000) })

export default defineEventHandler(async event => signInOver(event, await readJson(event, input)))
