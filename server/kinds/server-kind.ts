/** What a kind of thing tells the server about itself: what staff give of one, under which rights, and what goes with it. */
import { z } from 'zod'
import { isOwnAddress } from '../../core/site/own-addresses'
import { idPattern, isSitePath } from '../../core/shapes'
import { isLanguageTag } from '../../core/site-words/site-words'
import { pictureFileName } from '../../core/pictures/picture-file'
import { cleanFileName, storedFileName } from '../../core/files/stored-file'
import { weavePatterns } from '../../core/kinds/weave-patterns'

export interface ServerKind {
  /** Everything staff give of one, besides its id and place among its neighbours. */
  input: z.ZodObject
  /** Kinds of thing that stand or lie in one and go with it when it is removed. */
  takesAlong?: readonly string[]
  /** What sort of it one is, which a site can be without. */
  sort?(thing: Record<string, unknown>): string
  /** What is wrong with one as a whole: a sentence, and where. */
  problem?(thing: Record<string, unknown>): { at: (string | number)[]; message: string } | undefined
  /** Names of stored pictures, and where they stand in it. */
  pictures?(thing: Record<string, unknown>): { at: (string | number)[]; name: string }[]
  /** Names of stored files people fetch, and where they stand in it. */
  files?(thing: Record<string, unknown>): { at: (string | number)[]; name: string }[]
  /** How many others may stand in it: none, for what holds nothing. Default: no limit. */
  holds?(thing: Record<string, unknown>): boolean
}

export const id = z.string().regex(idPattern, 'Small letters, digits and dashes.').max(80)
export const title = z.string().min(1).max(200)
export const summary = z.string().max(1000)
export const words = z.string().max(200_000)

/** A language on its own: the site's where nothing is said. */
export const language = z
  .string()
  .max(35)
  .refine(isLanguageTag, 'A language such as en, de or en-IE is expected (BCP 47).')
  .optional()
/** What stands at the head of a page: a woven pattern, or a stored picture. */
export const picture = z
  .union(
    [z.enum(weavePatterns), pictureFileName],
    `One of ${weavePatterns.join(', ')}, or the name of a stored picture.`,
  )
  .optional()
/** The stored one, where it is none of the patterns. */
export const headPicture: ServerKind['pictures'] = ({ picture: name }) =>
  typeof name === 'string' && !(weavePatterns as readonly string[]).includes(name) ? [{ at: ['picture'], name }] : []

/** A stored file, and the name people get it by. */
export const file = storedFileName.optional()
export const fileName = z
  .string()
  .max(10_000)
  .transform(cleanFileName)
  .refine(name => name !== '', 'A file has a name.')
  .optional()

/** An address on the site, such as /techniques/welts. */
export const path = z
  .string()
  .max(300)
  .refine(
    value => isSitePath(value) && !/[?#\s%]/.test(value) && (value === '/' || !value.endsWith('/')),
    'A path such as /techniques/welts.',
  )
  .refine(value => !isOwnAddress(value), 'The application answers this address itself.')
