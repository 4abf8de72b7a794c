/** Actions on other sites: read from an address or from files, so that their pages can be brought as a folder is. */
import { z } from 'zod'
import { inTransaction } from '../db/turn'
import { pictureFileName } from '../../core/pictures/picture-file'
import { thingStaffKinds } from '../../core/staff/thing-kind'
import { folderOfFiles, folderOfReading } from '../services/bring-site/folders'
import { askForReading, leaveReading, readingTold } from '../services/bring-site/readings'
import type { SiteFolder } from '../services/bring-site/site-folder'
import { bringFolder } from '../services/folder/bring'
import { keptPictures } from '../services/files/pictures'
import type { Worker } from '../services/live/worker'
import type { Actor } from '../trace'
import type { Tx } from '../db/database'
import { draftContents, readState } from '../services/versions/versions'
import { readSettings } from '../services/settings/settings'
import { change, look, on, oneOf, steps } from './action'

const megabyte = 1_048_576
const without = z.array(z.string().max(500)).max(600).default([])
const htmlFiles = {
  files: z
    .record(z.string().min(1).max(500), z.string().max(2 * megabyte))
    .refine(files => Object.keys(files).length <= 500, 'At most 500 pages.'),
  /** Pictures that were uploaded before, by their paths in the folder. */
  pictures: z
    .record(z.string().max(500), pictureFileName)
    .refine(pictures => Object.keys(pictures).length <= 1000, 'At most 1,000 pictures.')
    .default({}),
}
const mayBring = oneOf(thingStaffKinds, 'change', 'add')
/** The server asks for addresses outside on their behalf. */
const mayRead = on('settings-outside', 'change')

export const bringSiteActions = {
  /** The site that is read or was read last, how far that is, and the hosts that may be read from. */
  'GET site-reading': look({
    right: mayRead,
    run: async ({ db }) => ({
      reading: await readingTold(db),
      hosts: (await readSettings(db)).outside.readFrom,
    }),
  }),
  'POST site-reading': change({
    right: mayRead,
    input: z.strictObject({ address: z.string().trim().max(500) }),
    run: ({ db, input, actor }) => askForReading(db, input.address, actor as typeof actor & { id: string }),
  }),
  'POST site-reading/leave': change({ right: mayRead, run: ({ db, actor }) => leaveReading(db, actor) }),
  /** What was read, as pages and menus for the draft as it is now, and what could not be kept. */
  'GET site-reading/folder': look({
    right: mayRead,
    run: ({ db }) =>
      inTransaction(db, async tx => told(await folderOfReading(tx, await draftContents(tx, await readState(tx)))), {
        isolationLevel: 'repeatable read',
        accessMode: 'read only',
      }),
  }),
  /** The same into the draft, but what is not wanted; all of it or nothing. */
  'POST site-reading/bring': change({
    right: mayRead,
    input: z.strictObject({ without }),
    run: async ({ db, input, actor, ...worker }) => {
      const draft = await draftContents(db, await readState(db))
      return broughtIn(db, await folderOfReading(db, draft, new Set(input.without)), actor, worker)
    },
  }),
  /** Files of HTML as such pages and menus: changes nothing. */
  'POST html-folder': steps({
    right: mayBring,
    most: 24 * megabyte,
    input: z.strictObject(htmlFiles),
    run: async ({ db, input }) => told(await folderOfFiles(db, input)),
  }),
  'POST html-folder/bring': change({
    right: mayBring,
    most: 24 * megabyte,
    input: z.strictObject({ ...htmlFiles, without }),
    run: async ({ db, input, actor, ...worker }) => {
      const kept = await keptPictures(db, Object.values(input.pictures))
      const pictures = Object.fromEntries(Object.entries(input.pictures).filter(([, name]) => kept.has(name)))
      return broughtIn(db, await folderOfFiles(db, { ...input, pictures }, new Set(input.without)), actor, worker)
    },
  }),
}

/** What is in the files stays here: they are brought from here. */
const told = ({ list, notKept }: SiteFolder) => ({ list, notKept })

async function broughtIn(db: Tx, { files, pictures, notKept }: SiteFolder, actor: Actor, worker: Worker) {
  const given = { pictures: new Map(Object.entries(pictures)), dry: false, actor, worker }
  return { ...(await bringFolder(db, new Map(Object.entries(files)), given)), notKept }
}
