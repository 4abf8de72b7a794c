/** The form for signing up, where one stands; whoever is in already is shown nothing, nor is anybody where nobody may. */
import { z } from 'zod'
import { blockKind, words } from './block-kind'

export const signUp = blockKind({
  body: z.strictObject({ text: words.optional() }),
  shown: ({ title, body }, { person, signUp: form }) =>
    person() || form.mode !== 'open' ? [] : { kind: 'signUp', title, ...(body.text ? { text: body.text } : {}), form },
})
