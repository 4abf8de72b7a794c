/** The files of a folder, to be fetched where one reads of them; as far as they may be found. */
import { z } from 'zod'
import { filesIn } from '../site/holding'
import { blockKind, id } from './block-kind'

const listedUnlessSaid = 200

export const files = blockKind({
  body: z.strictObject({
    folder: id,
    /** Those of folders in it too. */
    below: z.boolean().optional(),
    most: z.int().min(1).max(500).optional(),
  }),
  shown: async ({ title, body }, tools) => {
    const found = filesIn(body.folder, tools.index, body.below === true)
    const told = await tools.files(found.slice(0, body.most ?? listedUnlessSaid))
    return told.length ? { kind: 'files', title, files: told } : []
  },
})
