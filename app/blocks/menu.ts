import type { AppBlock } from './app-block'

export const menu: AppBlock = {
  name: 'menu',
  says: 'The entries of a menu, as far as the visitor gets them.',
  first: { menu: 'main' },
  fields: [{ key: 'menu', label: 'Menu', type: 'one', of: 'menu' }],
}
