import type { AppBlock } from './app-block'

export const shared: AppBlock = {
  name: 'shared part',
  says: 'A part of the shelf, the same wherever it stands.',
  unheaded: true,
  fields: [],
}
