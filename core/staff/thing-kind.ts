/** The kind of thing staff need a right for, by kind of thing. A block's depends on its own kind. */
import type { VersionedThing } from '../kinds/kinds'
import { staffKindOfBlock } from './block-kind'
import type { StaffKindId } from './staff-kinds'

type Thing = Record<string, unknown>

const staffKinds: Record<VersionedThing, StaffKindId | ((thing: Thing) => StaffKindId)> = {
  page: 'pages',
  post: 'posts',
  topic: 'topics',
  block: ({ kind }) => staffKindOfBlock[kind as keyof typeof staffKindOfBlock] ?? 'blocks-text',
  menu: 'menus',
  menuItem: 'menus',
  category: 'categories',
  product: 'products',
  folder: 'downloads',
  download: 'downloads',
  register: 'registers',
}

export function staffKindOfThing(kind: VersionedThing, thing: Thing): StaffKindId {
  const staff = staffKinds[kind]
  return typeof staff === 'function' ? staff(thing) : staff
}

/** All of them, each once. */
export const thingStaffKinds: readonly StaffKindId[] = [
  ...new Set(
    Object.values(staffKinds).flatMap(staff => (typeof staff === 'string' ? [staff] : Object.values(staffKindOfBlock))),
  ),
]
