import type { AppBlock } from './app-block'

export const signIn: AppBlock = {
  name: 'sign-in form',
  says: 'The way in, where one stands; shown to guests only.',
  words: body => String(body.text ?? ''),
  first: { text: 'For whoever is one of us already.' },
  fields: [{ key: 'text', label: 'Words above it', type: 'text', wide: true }],
}
