/** The kind of thing staff need a right for, by kind of block. */
import type { StaffKindId } from './staff-kinds'

export const staffKindOfBlock = {
  text: 'blocks-text',
  picture: 'blocks-picture',
  call: 'blocks-call',
  group: 'blocks-group',
  panels: 'blocks-group',
  panel: 'blocks-panel',
  account: 'blocks-panel',
  list: 'blocks-panel',
  goods: 'blocks-panel',
  code: 'blocks-panel',
  files: 'blocks-panel',
  search: 'blocks-panel',
  signIn: 'blocks-panel',
  signUp: 'blocks-panel',
  menu: 'blocks-panel',
  shared: 'blocks-group',
} as const satisfies Record<string, StaffKindId>
