import { weavePalettes, weavePatterns } from '~~/core/kinds/weave-patterns'
import type { AppBlock } from './app-block'

/** What shows where nothing is said stands first. */
const first = <T extends string>(all: readonly T[], one: T) => [one, ...all.filter(other => other !== one)]

export const picture: AppBlock = {
  name: 'picture',
  says: 'A picture, or a pattern that is woven.',
  unheaded: true,
  words: body => String(body.alt ?? ''),
  first: { pattern: 'plain', palette: 'fleece', alt: 'Say what it shows' },
  fields: [
    { key: 'alt', label: 'What the picture shows', type: 'text', wide: true },
    { key: 'file', label: 'Picture', type: 'picture', wide: true },
    {
      key: 'pattern',
      label: 'Else a woven pattern',
      type: 'choice',
      choices: first(weavePatterns, 'plain'),
      unless: 'file',
    },
    { key: 'palette', label: 'Wool', type: 'choice', choices: first(weavePalettes, 'fleece'), unless: 'file' },
    { key: 'caption', label: 'Words below it', type: 'text', wide: true },
  ],
}
