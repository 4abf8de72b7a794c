import type { AppBlock } from './app-block'

export const text: AppBlock = {
  first: { markdown: 'Write here.' },
  fields: [{ key: 'markdown', label: 'Text, in Markdown', type: 'words', rows: 5 }],
}
