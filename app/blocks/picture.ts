import { weavePalettes, weavePatterns } from '~~/core/kinds/weave-patterns'
import type { AppBlock } from './app-block'

export const picture: AppBlock = {
  name: 'picture',
  says: 'A picture, or a pattern that is woven.',
  unheaded: true,
  words: body => String(body.alt ?? ''),
  first: { pattern: 'plain', palette: 'fleece', alt: 'Say what it shows' },
  fields: [
    { key: 'alt', label: 'What the picture shows', type: 'text', wide: true },
    { key: 'pattern', label: 'Pattern', type: 'choice', choices: weavePatterns },
    { key: 'palette', label: 'Wool', type: 'choice', choices: weavePalettes },
    { key: 'caption', label: 'Words below it', type: 'text', wide: true },
  ],
}
