/** What the mill's staff may do, and how people join. All made up. */
import { setFor, staffKindIds } from '../../core/staff/staff-kinds'
import type { StaffKindId, StaffSet } from '../../core/staff/staff-kinds'
import type { StaffRuleInput } from '../../core/staff/staff-rule'
import type { SiteSettings } from '../../server/services/settings/settings'

const sets = (role: string, set: StaffSet, ...kinds: StaffKindId[]): StaffRuleInput[] =>
  kinds.map(kind => ({ role, kind, actions: setFor(kind, set) }))
const content = staffKindIds.filter(kind => kind.startsWith('blocks-'))

export const wexlowStaffRules: StaffRuleInput[] = [
  ...sets('page-hand', 'run', 'pages', ...content, 'posts', 'topics', 'menus', 'downloads'),
  ...sets('page-hand', 'work', 'gates'),
  ...sets('page-hand', 'look', 'levels', 'roles', 'landings'),
  ...sets('shop-hand', 'look', 'products'),
  { role: 'shop-hand', kind: 'products', actions: ['change'], fields: ['pictures'] },
  ...sets('shop-hand', 'run', 'stock'),
  ...sets('shop-hand', 'look', 'codes', 'offers', 'orders'),
  // Packs and sends; the money is given back by others.
  { role: 'shop-hand', kind: 'orders', actions: ['change'], fields: ['state'] },
  { role: 'shop-hand', kind: 'codes', actions: ['change'] },
  ...sets('shop-hand', 'look', 'prices', 'gates'),
  { role: 'shop-hand', kind: 'posts', actions: ['look', 'add', 'change'], whose: 'me' },
  ...sets('front-desk', 'run', 'people', 'firms', 'orders'),
  ...sets('front-desk', 'look', 'activity', 'gates', 'levels', 'roles', 'landings', 'settings-sign-up', 'mail-texts'),
]

export const wexlowSettings: Partial<SiteSettings> = {
  'sign-up': {
    mode: 'open',
    confirmByMail: true,
    approveByHand: false,
    lookAt: null,
    startLevel: null,
    startRoles: [],
    facts: [{ fact: 'spindles', required: false }],
  },
  seller: {
    name: 'Wexlow Mill Limited',
    lines: 'The Long Shed, Burn Lane',
    town: 'Wexlow',
    postcode: 'WX4 MILL',
    country: 'IE',
    register: 'Companies register, 000417',
    vatNumber: 'IE6388047V',
    taxNumber: '',
  },
  mail: { senderName: 'Wexlow Mill', senderAddress: 'mill@wexlow.example' },
}

export const wexlowForms = [
  {
    target: 'role stockist',
    open: true,
    intro: 'For shops with a door or a market stall. We answer within the week.',
    questions: ['What is your shop called, and where is it?', 'Which of our yarns would you carry?'],
  },
  {
    target: 'role test-knitter',
    open: true,
    intro: 'You knit a pattern before anyone else does, and tell us where it goes wrong.',
    questions: ['What did you last knit from a chart?'],
  },
  {
    target: 'role page-hand',
    open: true,
    intro: 'For hands who want to look after pages.',
    questions: ['Which pages would you begin with?'],
  },
]
export const wexlowApplications = [
  {
    personId: 'p-fenn',
    target: 'role test-knitter',
    answers: [
      { question: 'What did you last knit from a chart?', answer: 'The harbour cowl, twice, because of row 31.' },
    ],
  },
]

export const wexlowFirm = { id: 'gullhaven', name: 'Gullhaven Knits', owner: 'p-stella', roles: ['stockist'] }
