/** Actions on the site as a folder of files. */
import { inTransaction } from '../db/turn'
import { z } from 'zod'
import { thingStaffKinds } from '../../core/staff/thing-kind'
import { pictureFileName } from '../../core/pictures/picture-file'
import { keptPictures } from '../services/files/pictures'
import { bringFolder } from '../services/folder/bring'
import { takeFolderAs } from '../services/folder/take'
import { draftContents, readState } from '../services/versions/versions'
import { change, look, oneOf } from './action'

const kinds = [...thingStaffKinds, 'prices'] as const
const megabyte = 1_048_576

export const folderActions = {
  /** The words of the draft as files, by name: those of which the person may look at everything. */
  'GET site-folder': look({
    right: oneOf(kinds, 'look'),
    run: ({ db, ...worker }) =>
      inTransaction(db, async tx => takeFolderAs(tx, await draftContents(tx, await readState(tx)), worker), {
        isolationLevel: 'repeatable read',
        accessMode: 'read only',
      }),
  }),
  /** All of them into the draft, or nothing; `dry` only says what it would do. */
  'POST site-folder': change({
    right: oneOf(kinds, 'change', 'add'),
    most: 24 * megabyte,
    input: z.strictObject({
      dry: z.boolean(),
      files: z
        .record(z.string().max(500), z.string().max(2 * megabyte))
        .refine(files => Object.keys(files).length <= 20_000, 'At most 20,000 files.'),
      /** Pictures that were uploaded before, by their paths in the folder. */
      pictures: z
        .record(z.string().max(500), pictureFileName)
        .refine(pictures => Object.keys(pictures).length <= 5000, 'At most 5,000 pictures.')
        .default({}),
    }),
    run: async ({ db, input: { dry, files, pictures }, actor, ...worker }) => {
      const kept = await keptPictures(db, Object.values(pictures))
      const found = Object.entries(pictures).filter(([, name]) => kept.has(name))
      return bringFolder(db, new Map(Object.entries(files)), { pictures: new Map(found), dry, actor, worker })
    },
  }),
}
