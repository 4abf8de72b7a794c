import type { AppBlock } from './app-block'

export const search: AppBlock = {
  name: 'search',
  says: 'A line to search the site by: everybody finds what they may.',
  first: {},
  fields: [],
}
