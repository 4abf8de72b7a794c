/** What people bought and have in their basket, as SQL. Orders count while they are paid and not wholly given back. */
import { sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import type { LeafArgument } from '../../../../core/conditions/leaves/leaves'
import { liesInCategory } from '../../../../core/kinds/product'
import { variantsOf } from '../../../../core/shop/variants'
import { isPaid } from '../../standing/visitor-of'
import type { FilterWorld } from './people-filter'
import { list } from './sql'

const bought = sql`select o.person_id from shop_order o join order_line l on l.order_id = o.id
  where o.person_id is not null and ${isPaid(sql`o`)} and l.refunded_pieces < l.quantity`

/** Naming a product names its variants. */
const withVariants = (id: string, { rules }: FilterWorld) => [id, ...variantsOf(id, rules.index).map(one => one.id)]

export const boughtIds = (what: LeafArgument<'bought'>, world: FilterWorld): SQL =>
  'product' in what
    ? sql`${bought} and l.product = any(${list(withVariants(what.product, world))})`
    : sql`${bought} and l.categories @> ${list([what.category])}`

const everybody = sql`select person.id from person`
/** Of orders that count, by person: at least so much of a figure. Nothing is reached by everybody. */
const reaching = (figure: SQL, least: number): SQL =>
  least <= 0
    ? everybody
    : sql`select o.person_id from shop_order o where o.person_id is not null and ${isPaid(sql`o`)} group by o.person_id having ${figure} >= ${least}`

export const ordersIds = ({ atLeast }: LeafArgument<'orders'>): SQL => reaching(sql`count(*)`, atLeast)
export const spentIds = ({ atLeast }: LeafArgument<'spent'>): SQL => reaching(sql`sum(o.gross - o.refunded)`, atLeast)

export function basketIds(what: LeafArgument<'basket'>, world: FilterWorld): SQL {
  const { index } = world.rules
  const products =
    'product' in what
      ? withVariants(what.product, world)
      : [...index.all('product').values()].filter(one => liesInCategory(one, what.category, index)).map(one => one.id)
  return sql`select b.person_id from basket_line b where b.product = any(${list(products)})`
}
