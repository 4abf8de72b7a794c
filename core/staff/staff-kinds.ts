/** The kinds of thing staff work on, what can be done to each, and the words for it. */

export const staffActions = ['look', 'add', 'change', 'withdraw', 'publish'] as const
export type StaffAction = (typeof staffActions)[number]

/**
 * `one` and `many` name the kind in a sentence. `actions` are those that mean
 * something for it; whatever is versioned can be published. `fields` can narrow them.
 * `owned` things have somebody who made them and may be assigned to somebody.
 */
export interface StaffKind {
  one: string
  many: string
  group: string
  actions: readonly StaffAction[]
  fields?: readonly string[]
  owned?: true
  /** One of many kinds that are told together until somebody looks closer. */
  within?: 'parts'
  /** Nothing of it can be worked on yet, so nothing is offered that would give a right to it. */
  later?: true
}

const all = staffActions
const lookChange = ['look', 'change'] as const
const lookChangePublish = ['look', 'change', 'publish'] as const
const kept = ['look', 'add', 'change', 'withdraw'] as const
const setting = (one: string): StaffKind => ({
  one: `${one} settings`,
  many: `${one} settings`,
  group: 'Settings',
  actions: lookChange,
})
/** Parts of pages, by kind: named as whoever builds a page knows them. */
const partsOf = (one: string, many: string): StaffKind => ({
  one,
  many,
  within: 'parts',
  group: 'Content',
  actions: all,
  fields: ['title', 'summary', 'body', 'place', 'assignment'],
  owned: true,
})

export const staffKinds = {
  pages: {
    one: 'page',
    many: 'pages',
    group: 'Content',
    actions: all,
    fields: ['title', 'address', 'summary', 'place', 'assignment'],
    owned: true,
  },
  posts: {
    one: 'post',
    many: 'posts',
    group: 'Content',
    actions: all,
    fields: ['title', 'address', 'summary', 'body', 'topics', 'place', 'assignment'],
    owned: true,
  },
  'blocks-text': partsOf('text', 'texts'),
  'blocks-picture': partsOf('picture', 'pictures'),
  'blocks-call': partsOf('call to action', 'calls to action'),
  'blocks-group': partsOf('group', 'groups'),
  'blocks-panels': partsOf('columns', 'columns'),
  'blocks-panel': partsOf('member’s tile', 'member’s tiles'),
  'blocks-list': partsOf('list', 'lists'),
  'blocks-goods': partsOf('goods', 'goods on pages'),
  'blocks-code': partsOf('code', 'codes on pages'),
  'blocks-files': partsOf('files', 'files on pages'),
  'blocks-search': partsOf('search', 'searches'),
  'blocks-sign-in': partsOf('sign-in form', 'sign-in forms'),
  'blocks-sign-up': partsOf('sign-up form', 'sign-up forms'),
  'blocks-menu': partsOf('menu', 'menus on pages'),
  'blocks-account': partsOf('way in and out', 'ways in and out'),
  'blocks-shared': partsOf('shared part', 'shared parts'),
  topics: { one: 'topic', many: 'topics', group: 'Content', actions: all },
  menus: { one: 'menu', many: 'menus', group: 'Content', actions: all },
  downloads: {
    one: 'download',
    many: 'downloads',
    group: 'Content',
    actions: all,
    fields: ['title', 'address', 'summary', 'body', 'folder', 'file', 'place', 'assignment'],
    owned: true,
  },
  registers: { one: 'register', many: 'registers', group: 'Content', actions: all, fields: ['title', 'fields'] },
  categories: {
    one: 'category',
    many: 'categories',
    group: 'Shop',
    actions: all,
    fields: ['title', 'address', 'summary', 'place'],
  },
  products: {
    one: 'product',
    many: 'products',
    group: 'Shop',
    actions: all,
    fields: ['title', 'address', 'summary', 'pictures', 'categories', 'place', 'assignment'],
    owned: true,
  },
  prices: { one: 'price', many: 'prices', group: 'Shop', actions: lookChangePublish },
  stock: { one: 'stock', many: 'stock', group: 'Shop', actions: lookChange },
  cost: { one: 'cost', many: 'cost', group: 'Shop', actions: lookChange },
  codes: { one: 'code', many: 'codes', group: 'Shop', actions: kept },
  orders: { one: 'order', many: 'orders', group: 'Shop', actions: kept, fields: ['buyer', 'state', 'refunds'] },
  people: {
    one: 'person',
    many: 'people',
    group: 'People',
    actions: kept,
    fields: ['name', 'address', 'facts', 'levels', 'roles', 'standing', 'notes'],
  },
  firms: { one: 'firm', many: 'firms', group: 'People', actions: kept },
  staff: { one: 'staff role holder', many: 'who is staff, and what they may', group: 'People', actions: kept },
  levels: { one: 'level', many: 'levels', group: 'Rules', actions: all },
  roles: { one: 'role', many: 'roles', group: 'Rules', actions: all },
  gates: { one: 'gate', many: 'gates', group: 'Rules', actions: all },
  offers: { one: 'offer', many: 'offers', group: 'Rules', actions: all },
  tax: { one: 'tax rule', many: 'tax rules', group: 'Rules', actions: all },
  delivery: { one: 'way of delivery', many: 'ways of delivery', group: 'Rules', actions: all },
  landings: { one: 'landing', many: 'landings', group: 'Rules', actions: all },
  guarantees: { one: 'guarantee', many: 'guarantees', group: 'Rules', actions: kept, later: true },
  'mail-texts': { one: 'mail text', many: 'mail texts', group: 'Settings', actions: lookChange },
  activity: { one: 'activity', many: 'activity', group: 'Settings', actions: ['look'] },
  'settings-site': setting('site'),
  // Facts people are asked for are rules, and wait for an edition.
  'settings-sign-up': { ...setting('sign-up'), actions: lookChangePublish },
  'settings-mail': setting('mail'),
  'settings-activity': setting('activity'),
  'settings-payment': setting('payment'),
  'settings-parts': setting('parts'),
  'settings-words': setting('words'),
  'settings-look': setting('look'),
  'settings-files': setting('files'),
  'settings-seller': setting('seller'),
  'settings-outside': setting('other sites'),
} as const satisfies Record<string, StaffKind>
export type StaffKindId = keyof typeof staffKinds
export const staffKindIds = Object.keys(staffKinds) as StaffKindId[]

/** Ready-made sets: everything a kind knows, all but making it public, and looking. */
export const staffSets = {
  run: staffActions,
  work: ['look', 'add', 'change', 'withdraw'],
  look: ['look'],
} as const satisfies Record<string, readonly StaffAction[]>
export type StaffSet = keyof typeof staffSets

/** A set's actions for one kind. */
export function setFor(kind: StaffKindId, set: StaffSet): StaffAction[] {
  const known: readonly StaffAction[] = staffKinds[kind].actions
  return staffSets[set].filter(action => known.includes(action))
}
