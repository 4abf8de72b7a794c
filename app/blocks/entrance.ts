/** Parts that let somebody in where they stand: words, and the form below them. */
import type { AppBlock } from './app-block'

export const entrance = (name: string, says: string, text: string): AppBlock => ({
  name,
  says: `${says}; shown to guests only.`,
  words: body => String(body.text ?? ''),
  first: { text },
  fields: [{ key: 'text', label: 'Words above it', type: 'text', wide: true }],
})
