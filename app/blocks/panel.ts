import type { PanelSort } from '~~/core/blocks/panel-sorts'
import { weavePalettes, weavePatterns } from '~~/core/kinds/weave-patterns'
import { optionsOf } from './app-block'
import type { AppBlock } from './app-block'

const sorts: Record<PanelSort, string> = {
  words: 'words only',
  levels: 'their levels',
  firm: 'their firm',
  yours: 'what is theirs to open',
  soon: 'what opens soon',
  up: 'what one level up adds',
  profile: 'their profile',
  sessions: 'where they are signed in',
  payments: 'what they paid',
  applications: 'what they asked for',
}

const noneOr = (all: readonly string[]) => () => [
  { value: '', label: 'none' },
  ...all.map(one => ({ value: one, label: one })),
]

export const panel: AppBlock = {
  name: 'member’s tile',
  says: 'Something of the member’s own, or words and a way on.',
  first: { shows: 'words', text: 'Say something.' },
  fields: [
    { key: 'shows', label: 'Shows', type: 'choice', options: optionsOf(sorts) },
    { key: 'page', label: 'Leads to, and shows only to whom may open it', type: 'one', of: 'page' },
    { key: 'text', label: 'Words', type: 'text', wide: true },
    { key: 'file', label: 'Picture at its head', type: 'picture', wide: true },
    {
      key: 'pattern',
      label: 'Else a woven pattern',
      type: 'choice',
      options: noneOr(weavePatterns),
      write: value => value || null,
      unless: 'file',
    },
    { key: 'palette', label: 'Wool', type: 'choice', choices: weavePalettes, unless: 'file', with: 'pattern' },
  ],
}
