/** Actions on pictures that are kept here. */
import { z } from 'zod'
import { mostOfPicture } from '../../core/pictures/picture-file'
import { Problem } from '../problem'
import { keepPicture, storedPicture } from '../services/files/pictures'
import { sendPicture } from '../services/pages/picture-of'
import { leaveTrace } from '../trace'
import { change, look, made, oneOf } from './action'

/** Four characters for three bytes (RFC 4648, 4), and what stands around them. */
const mostSent = Math.ceil(mostOfPicture / 3) * 4 + 1024
const base64 = z
  .string()
  .regex(/^[A-Za-z0-9+/]+={0,2}$/, 'Bytes in base64 are expected.')
  .transform(text => Buffer.from(text, 'base64'))

/** What pictures stand in. */
const shows = ['blocks-picture', 'pages', 'posts'] as const

export const pictureActions = {
  /** A picture by its name, which only those know whom a part with it was told to. */
  'GET pictures/:name': look({
    right: oneOf(shows, 'look'),
    run: async ({ db, params, event }) => {
      const found = await storedPicture(db, params.name!)
      if (!found) throw new Problem('not-found')
      return sendPicture(event, found)
    },
  }),
  /** Keeps one, for a part to name. */
  'POST pictures': change({
    right: oneOf(shows, 'change', 'add'),
    most: mostSent,
    input: z.strictObject({ bytes: base64 }),
    run: async ({ db, input, actor, event }) => {
      const name = await keepPicture(db, input.bytes, actor)
      await leaveTrace(db, actor, 'picture.keep', `picture ${name}`)
      return made({ event }, { name })
    },
  }),
}
