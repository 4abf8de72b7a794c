/** The kind of thing staff need a right for, by kind of block: one for each. */
import type { StaffKindId } from './staff-kinds'

export const staffKindOfBlock = {
  text: 'blocks-text',
  picture: 'blocks-picture',
  call: 'blocks-call',
  group: 'blocks-group',
  panels: 'blocks-panels',
  panel: 'blocks-panel',
  account: 'blocks-account',
  list: 'blocks-list',
  goods: 'blocks-goods',
  code: 'blocks-code',
  files: 'blocks-files',
  search: 'blocks-search',
  signIn: 'blocks-sign-in',
  signUp: 'blocks-sign-up',
  menu: 'blocks-menu',
  shared: 'blocks-shared',
} as const satisfies Record<string, StaffKindId>
