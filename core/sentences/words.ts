/** The English of sentences: with `phrases` and `values`, all that another language would say otherwise. */
import type { Kept, Right } from '../kinds/kinds'
import type { Weekday } from '../calendar'

export const weekdayNames: Record<Weekday, string> = {
  mon: 'Monday',
  tue: 'Tuesday',
  wed: 'Wednesday',
  thu: 'Thursday',
  fri: 'Friday',
  sat: 'Saturday',
  sun: 'Sunday',
}
export const monthNames = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

export const kindNames: Record<Kept, string> = {
  page: 'page',
  post: 'post',
  block: 'part',
  product: 'product',
  category: 'category',
  download: 'download',
  menuItem: 'menu item',
  route: 'service route',
  register: 'register',
  record: 'record',
  field: 'field',
  topic: 'topic',
  folder: 'folder',
  menu: 'menu',
}
export const kindPlurals: Record<Kept, string> = {
  page: 'Pages',
  post: 'Posts',
  block: 'Parts',
  product: 'Products',
  category: 'Categories',
  download: 'Downloads',
  menuItem: 'Menu items',
  route: 'Service routes',
  register: 'Registers',
  record: 'Records',
  field: 'Fields',
  topic: 'Topics',
  folder: 'Folders',
  menu: 'Menus',
}

/** How the sentence about each right begins. */
export const rightLeads: Record<Right, string> = {
  open: 'Open to',
  find: 'Listed for',
  search: 'Found in search by',
  price: 'Priced for',
  take: 'Taken by',
}

/** Words that mean something in a sentence, so that a name holding one is written in quotes. */
export const reserved: ReadonlySet<string> = new Set([
  'and',
  'or',
  'not',
  'above',
  'up',
  'to',
  'holds',
  'any',
  'all',
  'role',
  'roles',
  'level',
  'of',
  'nothing',
  'may',
  'person',
  'firm',
  'bought',
  'from',
  'until',
  'on',
  'in',
  'ordered',
  'spent',
  'at',
  'least',
  'most',
  'times',
  'member',
  'for',
  'as',
  'basket',
  'can',
  'open',
  'between',
  'browser',
  'region',
  'country',
  'reading',
  'network',
  'coming',
  'address',
  'carries',
  'fact',
  'is',
  'one',
  'its',
  'owner',
  'assigned',
  'record',
  'everyone',
  'nobody',
  'guests',
  'signed-in',
  'visitors',
  'audience',
  'yes',
  'no',
  'phone',
  'tablet',
  'desktop',
  'years',
  'year',
  'months',
  'month',
  'weeks',
  'week',
  'days',
  'day',
  'hours',
  'hour',
  'minutes',
  'minute',
  'seconds',
  'second',
  ...Object.values(weekdayNames).map(name => name.toLowerCase()),
  ...Object.values(weekdayNames).map(name => `${name.toLowerCase()}s`),
])

/** What ends the bare name a way of delivery begins with: each begins what comes after it. */
export const deliveryNameEnds: ReadonlySet<string> = new Set([
  'to',
  'anywhere',
  'everywhere',
  'costs',
  'always',
  'up',
  'heavier',
  'above',
  'free',
  'nothing',
  'for',
  'only',
  'saying',
  'note',
])

const codes =
  'AD AE AF AG AI AL AM AO AQ AR AS AT AU AW AX AZ BA BB BD BE BF BG BH BI BJ BL BM BN BO BQ BR BS BT BV BW BY BZ CA CC CD CF CG CH CI CK CL CM CN CO CR CU CV CW CX CY CZ DE DJ DK DM DO DZ EC EE EG EH ER ES ET FI FJ FK FM FO FR GA GB GD GE GF GG GH GI GL GM GN GP GQ GR GS GT GU GW GY HK HM HN HR HT HU ID IE IL IM IN IO IQ IR IS IT JE JM JO JP KE KG KH KI KM KN KP KR KW KY KZ LA LB LC LI LK LR LS LT LU LV LY MA MC MD ME MF MG MH MK ML MM MN MO MP MQ MR MS MT MU MV MW MX MY MZ NA NC NE NF NG NI NL NO NP NR NU NZ OM PA PE PF PG PH PK PL PM PN PR PS PT PW PY QA RE RO RS RU RW SA SB SC SD SE SG SH SI SJ SK SL SM SN SO SR SS ST SV SX SY SZ TC TD TF TG TH TJ TK TL TM TN TO TR TT TV TW TZ UA UG UM US UY UZ VA VC VE VG VI VN VU WF WS YE YT ZA ZM ZW'

let known: { id: string; name: string }[] | undefined
/** Countries of ISO 3166-1 with the runtime's English names. */
export function countries(): { id: string; name: string }[] {
  if (!known) {
    const names = new Intl.DisplayNames('en', { type: 'region' })
    known = codes.split(' ').map(id => ({ id, name: names.of(id) ?? id }))
  }
  return known
}
