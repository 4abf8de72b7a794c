import type { AppBlock } from './app-block'

export const signUp: AppBlock = {
  name: 'sign-up form',
  says: 'Becoming one of us, where one stands; shown to guests only.',
  words: body => String(body.text ?? ''),
  first: { text: 'It takes a minute.' },
  fields: [{ key: 'text', label: 'Words above it', type: 'text', wide: true }],
}
