import type { AppBlock } from './app-block'

export const group: AppBlock = {
  name: 'group',
  says: 'Parts under one heading and one gate.',
  first: {},
  fields: [],
  holds: true,
}
