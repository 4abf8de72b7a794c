import { appKind } from './app-kind'

export const menu = appKind({
  fields: [{ key: 'title', label: 'Title', type: 'text', needed: true }],
  listed: { group: 'Menus', order: 3 },
})

export const menuItem = appKind({
  means: { open: 'its own gates let the item show; it still follows what it leads to.' },
  note: ({ follow }) => (follow === false ? 'on its own' : 'follows its page'),
})
