/** The way in, as a form where one stands; whoever is in already is shown nothing. */
import { z } from 'zod'
import { blockKind, words } from './block-kind'

export const signIn = blockKind({
  body: z.strictObject({ text: words.optional() }),
  shown: ({ title, body }, { person }) =>
    person() ? [] : { kind: 'signIn', title, ...(body.text ? { text: body.text } : {}) },
})
