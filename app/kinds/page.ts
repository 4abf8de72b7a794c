import { appKind } from './app-kind'
import { aboutPage } from './plain'

export const page = appKind({
  parent: ({ parent }) => parent as string | undefined,
  means: {
    glimpse: 'title and summary show in lists; the page does not open.',
    unseen: 'it is in no list and its address leads nowhere.',
  },
  walks: true,
  blocks: true,
  listed: { group: 'Pages', order: 1 },
  fields: [
    { key: 'title', label: 'Title', type: 'text', needed: true },
    { key: 'path', label: 'Address', type: 'text', hint: '/techniques/welts', needed: true },
    { key: 'parent', label: 'Lies under', type: 'one', of: 'page' },
    { key: 'summary', label: 'Summary, shown in lists', type: 'text' },
    ...aboutPage,
  ],
})
