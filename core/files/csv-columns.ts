/** The columns of the files that go in and out as CSV, in the order in which they are written. */

/** Each but `id` may be left out, and then leaves what it says as it is. */
export const goodsColumns = [
  'id',
  'of',
  'title',
  'categories',
  'options',
  'address',
  'price',
  'currency',
  'sale',
  'sale from',
  'sale until',
  'tax category',
  'taxed',
  'delivery taxed',
  'weight',
  'sent',
  'gives level',
  'gives roles',
  'summary',
  'stock',
  'cost',
] as const
export type GoodsColumn = (typeof goodsColumns)[number]

export const rateColumns = [
  'id',
  'tax',
  'country',
  'region',
  'postcodes',
  'category',
  'percent',
  'delivery',
  'name',
] as const
export type RateColumn = (typeof rateColumns)[number]

/** Besides these, each profile fact by its id. */
export const peopleColumns = ['name', 'email', 'levels', 'roles'] as const
