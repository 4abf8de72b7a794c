import { refusedWords } from '~/kinds/refused-words'
import { optionsOf } from './app-block'
import type { AppBlock } from './app-block'

export const call: AppBlock = {
  name: 'call to action',
  says: 'A few words and a button that leads on.',
  words: body => String(body.text ?? body.label ?? ''),
  first: { label: 'Go on', href: '/' },
  fields: [
    { key: 'text', label: 'Words', type: 'text', wide: true },
    { key: 'label', label: 'Button', type: 'text', needed: true },
    { key: 'href', label: 'Leads to', type: 'text', needed: true },
    {
      key: 'whenRefused',
      label: 'For whom that does not open, it',
      type: 'choice',
      options: optionsOf(refusedWords),
    },
    { key: 'counted', label: 'Note in the activity who follows it', type: 'check' },
  ],
}
