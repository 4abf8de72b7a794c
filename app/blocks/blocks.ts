/** The kinds of block as the console writes them. One line for each; a missing one does not compile. */
import type { BlockKind } from '~~/core/blocks/blocks'
import { account } from './account'
import type { AppBlock } from './app-block'
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

export const appBlocks: Record<BlockKind, AppBlock> = {
  text,
  picture,
  call,
  group,
  panels,
  panel,
  list,
  goods,
  code,
  files,
  search,
  signIn,
  signUp,
  menu,
  account,
  shared,
}

export const appBlockOf = (kind: string): AppBlock =>
  Object.hasOwn(appBlocks, kind) ? appBlocks[kind as BlockKind] : { name: kind, says: '', fields: [] }
