/** How the site shows each part of a page: its own component. A missing one does not compile. */
import type { Component } from 'vue'
import type { ViewBlock } from '~~/core/pages/view'
import Accent from '~/components/site/blocks/Accent.vue'
import Account from '~/components/site/blocks/Account.vue'
import Call from '~/components/site/blocks/Call.vue'
import Code from '~/components/site/blocks/Code.vue'
import Dimmed from '~/components/site/blocks/Dimmed.vue'
import Files from '~/components/site/blocks/Files.vue'
import Goods from '~/components/site/blocks/Goods.vue'
import Group from '~/components/site/blocks/Group.vue'
import List from '~/components/site/blocks/List.vue'
import Menu from '~/components/site/blocks/Menu.vue'
import Notice from '~/components/site/blocks/Notice.vue'
import Part from '~/components/site/blocks/Part.vue'
import Panel from '~/components/site/blocks/Panel.vue'
import Picture from '~/components/site/blocks/Picture.vue'
import Search from '~/components/site/blocks/Search.vue'
import SignIn from '~/components/site/blocks/SignIn.vue'
import SignUp from '~/components/site/blocks/SignUp.vue'
import Teaser from '~/components/site/blocks/Teaser.vue'
import Text from '~/components/site/blocks/Text.vue'

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
