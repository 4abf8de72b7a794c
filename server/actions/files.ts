/** Actions on files people fetch: taken in piece by piece, and read by staff by their names. */
import { getHeader } from 'h3'
import type { H3Event } from 'h3'
import { z } from 'zod'
import { readFileName, cleanFileName } from '../../core/files/stored-file'
import { afterCommit } from '../db/turn'
import { ask } from '../jobs/jobs'
import { Problem } from '../problem'
import { beginUpload, giveUpUpload, goOnWithUpload, uploadOf } from '../services/files/uploads'
import { filesKept } from '../services/files/read-through'
import { sendFile } from '../services/files/send-file'
import { readSettings } from '../services/settings/settings'
import { change, look, made, on, oneOf, steps } from './action'
import type { Ask } from './action'
import { leaveTrace } from '../trace'

const takes = [on('downloads', 'add', ['file']), on('downloads', 'change', ['file'])]

/** The body as it comes; one that breaks off is one that ends there. */
async function* sent({ node: { req } }: H3Event): AsyncGenerator<Buffer> {
  try {
    for await (const piece of req as AsyncIterable<Buffer>) yield piece
  } catch (error) {
    if (!req.destroyed) throw error
  }
}

const idOf = ({ params }: Ask<unknown>) => params.id ?? ''
const offset = z
  .string()
  .regex(/^\d{1,15}$/)
  .transform(Number)

export const fileActions = {
  /** A file by its name, which only those know whom a download with it was told to. */
  'GET files/:name': look({
    right: oneOf(['downloads'], 'look'),
    run: async ({ params, event }) => {
      const told = readFileName(params.name)
      if (!told) throw new Problem('not-found')
      return sendFile(event, told, cleanFileName(`file.${told.type}`))
    },
  }),
  /** How many are kept, and what is known of their bytes. */
  'GET files': look({ right: on('settings-files', 'look'), run: ({ db }) => filesKept(db) }),
  /** All of them are compared with their names, however lately that was. */
  'POST files/read-through': change({
    right: on('settings-files', 'change'),
    run: async ({ db, actor }) => {
      await leaveTrace(db, actor, 'files.read-through', 'files')
      await afterCommit(() => ask('files', { all: true }))
    },
  }),
  /** Begins one: its name and its bytes. What cannot be kept is said before anything is sent. */
  'POST uploads': steps({
    right: takes,
    input: z.strictObject({ name: z.string().max(10_000), size: z.int().min(0).max(Number.MAX_SAFE_INTEGER) }),
    run: async ({ db, input, actor, signedIn, event }) =>
      made(
        { event },
        await beginUpload(db, input, (await readSettings(db)).files, { ...actor, id: signedIn.personId }),
      ),
  }),
  /** How far it has come. */
  'GET uploads/:id': look({
    right: takes,
    run: async ask => uploadOf(ask.db, idOf(ask), { ...ask.actor, id: ask.signedIn.personId }),
  }),
  /** More of it, from `Upload-Offset` on; whole, it is kept, and `file` is the name it is kept under. */
  'PATCH uploads/:id': steps({
    right: takes,
    run: async ask => {
      const from = offset.safeParse(getHeader(ask.event, 'upload-offset'))
      if (!from.success) throw new Problem('upload-without-offset')
      return goOnWithUpload(
        ask.db,
        { id: idOf(ask), from: from.data, bytes: sent(ask.event) },
        (await readSettings(ask.db)).files,
        { ...ask.actor, id: ask.signedIn.personId },
      )
    },
  }),
  'DELETE uploads/:id': steps({
    right: takes,
    run: async ask => giveUpUpload(ask.db, idOf(ask), { ...ask.actor, id: ask.signedIn.personId }),
  }),
}
