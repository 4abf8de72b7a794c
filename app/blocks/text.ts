import type { AppBlock } from './app-block'

export const text: AppBlock = {
  name: 'text',
  says: 'Words, in Markdown.',
  first: { markdown: '' },
  fields: [],
  text: 'markdown',
  words: body => String(body.markdown ?? ''),
}
