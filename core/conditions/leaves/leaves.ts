/** Everything a rule can look at. Adding one is a module and a line here; then the compiler names every other list that lacks it. */
import type { z } from 'zod'
import { address } from './address'
import { assigned } from './assigned'
import { audience } from './audience'
import { basket } from './basket'
import { bought } from './bought'
import { browser } from './browser'
import { country } from './country'
import { date } from './date'
import { device } from './device'
import { everyone } from './everyone'
import { fact } from './fact'
import { firm } from './firm'
import { language } from './language'
import { level } from './level'
import { memberFor } from './member-for'
import { mine } from './mine'
import { nobody } from './nobody'
import { opens } from './opens'
import { orders } from './orders'
import { permission } from './permission'
import { person } from './person'
import { query } from './query'
import { record } from './record'
import { referrer } from './referrer'
import { region } from './region'
import { role } from './role'
import { signedIn } from './signed-in'
import { spent } from './spent'
import { time } from './time'
import { weekday } from './weekday'
import type { LeafModule } from './leaf'

/** In the order in which sentences are read and suggestions list them. */
export const leaves = {
  everyone,
  nobody,
  signedIn,
  level,
  role,
  audience,
  permission,
  person,
  firm,
  bought,
  orders,
  spent,
  memberFor,
  basket,
  opens,
  date,
  time,
  weekday,
  device,
  browser,
  region,
  country,
  language,
  address,
  referrer,
  query,
  fact,
  mine,
  assigned,
  record,
} as const

export type LeafKey = keyof typeof leaves
export type LeafArgument<K extends LeafKey> = z.infer<(typeof leaves)[K]['shape']>
export type Leaf = { [K in LeafKey]: { [P in K]: LeafArgument<K> } }[LeafKey]
export const leafKeys = Object.keys(leaves) as LeafKey[]

/** The module of a leaf, without the type of its argument: for whatever is the same for all. */
export const leafOf = (key: string): LeafModule<unknown> | undefined =>
  Object.hasOwn(leaves, key) ? (leaves[key as LeafKey] as unknown as LeafModule<unknown>) : undefined
