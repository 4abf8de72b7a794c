import type { KindField } from '~/kinds/app-kind'
import type { AppBlock } from './app-block'

const most = (key: string, label: string): KindField => ({
  key,
  label,
  type: 'choice',
  options: () => [
    { value: '', label: 'as many as fit' },
    ...[1, 2, 3, 4, 5, 6].map(n => ({ value: String(n), label: `at most ${n}` })),
  ],
  write: value => (value === '' ? null : Number(value)),
})

export const panels: AppBlock = {
  name: 'columns',
  says: 'Parts side by side, as many as fit.',
  first: {},
  fields: [most('screen', 'On a screen'), most('tablet', 'On a tablet'), most('phone', 'On a phone')],
  holds: true,
}
