/** How the site shows each part of a page: its own component. A missing one does not compile. */
import type { Component } from 'vue'
import type { ViewBlock } from '~~/core/view/view'
import Accent from './Accent.vue'
import Account from './Account.vue'
import Call from './Call.vue'
import Code from './Code.vue'
import Dimmed from './Dimmed.vue'
import Files from './Files.vue'
import Goods from './Goods.vue'
import Group from './Group.vue'
import List from './List.vue'
import Menu from './Menu.vue'
import Notice from './Notice.vue'
import Panel from './Panel.vue'
import Part from './Part.vue'
import Picture from './Picture.vue'
import Search from './Search.vue'
import SignIn from './SignIn.vue'
import SignUp from './SignUp.vue'
import Teaser from './Teaser.vue'
import Text from './Text.vue'

export type ViewOf<K extends ViewBlock['kind']> = Extract<ViewBlock, { kind: K }>

export const shownAs: Record<ViewBlock['kind'], Component> = {
  text: Text,
  picture: Picture,
  call: Call,
  group: Group,
  panels: Group,
  list: List,
  goods: Goods,
  code: Code,
  files: Files,
  search: Search,
  panel: Panel,
  account: Account,
  signIn: SignIn,
  signUp: SignUp,
  menu: Menu,
  teaser: Teaser,
  notice: Notice,
  dimmed: Dimmed,
  accent: Accent,
  part: Part,
}
