import type { AppBlock } from './app-block'

export const panels: AppBlock = {
  name: 'columns',
  says: 'Parts side by side, as many as fit.',
  first: {},
  fields: [],
  holds: true,
}
