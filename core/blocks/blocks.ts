/** The kinds of block pages are made of. One line for each. */
import type { z } from 'zod'
import { staffKindOfBlock } from '../staff/block-kind'
import type { StaffKindId } from '../staff/staff-kinds'
import type { ViewBlock } from '../view/view'
import { account } from './account'
import type { BlockKindModule, BlockTools, ShownBlock } from './block-kind'
import { call } from './call'
import { code } from './code'
import { files } from './files'
import { goods } from './goods'
import { group } from './group'
import { list } from './list'
import { menu } from './menu'
import { panel } from './panel'
import { panels } from './panels'
import { picture } from './picture'
import { search } from './search'
import { shared } from './shared'
import { signIn } from './sign-in'
import { signUp } from './sign-up'
import { text } from './text'

const modules = {
  text,
  picture,
  call,
  group,
  panels,
  panel,
  account,
  list,
  goods,
  code,
  files,
  search,
  signIn,
  signUp,
  menu,
  shared,
}

export type BlockKind = keyof typeof modules
export type BlockBody<K extends BlockKind> = z.infer<(typeof modules)[K]['body']>
export const blockKinds = Object.keys(modules) as [BlockKind, ...BlockKind[]]

/** Each kind has a right staff need for it: one forgotten does not compile. */
staffKindOfBlock satisfies Record<BlockKind, StaffKindId>

export const blockModule = (kind: BlockKind) => modules[kind] as BlockKindModule

/** What a block shows once it opens. Its body was parsed when it was written. */
export async function shownBlock(
  kind: BlockKind,
  block: ShownBlock<Record<string, unknown>>,
  tools: BlockTools,
): Promise<ViewBlock[]> {
  return [await blockModule(kind).shown(block, tools)].flat()
}
