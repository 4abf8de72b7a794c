import type { Product } from '~~/core/kinds/product'
import { variantName, variantsOf } from '~~/core/shop/variants'
import type { GoodsCounted, ProductPart } from '~/loft/core/route-answers'
import type { SiteIndex } from '~~/core/site/site-index'

/** One product, or one of its variants, as a row of the grid of goods. */
export interface GoodsRow {
  product: Product
  name: string
  /** How many variants it has; none of those has any. */ variants: number
  /** Minor units, its own or, with `follows`, its product's. */ price?: number
  follows?: true
  /** In store and put aside, its own; of a product with variants theirs together. */
  stock?: { pieces: number; reserved: number }
  cost?: number
  may: readonly ProductPart[]
}

export const goodsOrders = {
  shown: 'as the shop shows them',
  name: 'by name',
  price: 'by price',
  free: 'least free first',
} as const
export type GoodsOrder = keyof typeof goodsOrders
export const goodsFilters = {
  all: 'all goods',
  sale: 'on sale',
  out: 'none free',
  moved: 'changed in the draft',
  bare: 'without a price',
} as const
export type GoodsFilter = keyof typeof goodsFilters

export interface GoodsAsk {
  index: SiteIndex
  counted: GoodsCounted
  text: string
  category: string
  only: GoodsFilter
  order: GoodsOrder
  folded: ReadonlySet<string>
  /** Whether a product is changed in the draft. */ isMoved(id: string): boolean
}

const none: readonly ProductPart[] = []
const sumOf = (counts: Record<string, number> | undefined, ids: readonly string[]) =>
  ids.reduce((sum, id) => sum + (counts?.[id] ?? 0), 0)
export const freeOf = ({ stock }: GoodsRow) => (stock ? stock.pieces - stock.reserved : 0)

function rowOf(product: Product, { counted }: GoodsAsk, variants: readonly Product[], of?: Product): GoodsRow {
  const set = counted.goods[product.id]
  const price = product.price ?? of?.price
  const ids = [product, ...variants].map(one => one.id)
  const cost = counted.cost?.[product.id]
  return {
    product,
    name: of ? variantName(product) : (product.title ?? product.id),
    variants: variants.length,
    ...(price === undefined ? {} : { price }),
    ...(product.price === undefined && of ? { follows: true as const } : {}),
    ...(counted.stock ? { stock: { pieces: sumOf(counted.stock, ids), reserved: sumOf(counted.reserved, ids) } } : {}),
    ...(cost === undefined ? {} : { cost }),
    may: set === undefined ? none : (counted.may[set] ?? none),
  }
}

/** The rows of the grid: products that fit, each with its variants behind it unless they are folded. */
export function goodsRows(ask: GoodsAsk): { rows: GoodsRow[]; products: number } {
  const { index, text, category, only, order, folded, isMoved, counted } = ask
  const words = text.toLowerCase().split(/\s+/).filter(Boolean)
  const says = (one: Product) => {
    const said = `${one.title ?? ''} ${Object.values(one.options ?? {}).join(' ')} ${one.id}`.toLowerCase()
    return words.every(word => said.includes(word))
  }
  const fits: Record<GoodsFilter, (row: GoodsRow) => boolean> = {
    all: () => true,
    sale: ({ product }) => product.sale !== undefined,
    out: row => row.stock !== undefined && freeOf(row) <= 0,
    moved: ({ product }) => isMoved(product.id),
    bare: row => row.price === undefined,
  }
  const isIn = (one: Product) =>
    !category || (one.categories ?? []).some(id => index.lineage('category', id).includes(category))
  const found: { row: GoodsRow; inner: GoodsRow[] }[] = []
  for (const product of index.all('product').values() as Iterable<Product>) {
    if (product.of !== undefined || !(product.id in counted.goods) || !isIn(product)) continue
    const variants = variantsOf(product.id, index)
    const row = rowOf(product, ask, variants)
    const all = variants.map(one => rowOf(one, ask, [], product))
    const isSaid = says(product)
    const inner = all.filter(one => (isSaid || says(one.product)) && fits[only](one))
    const isOwn = isSaid && fits[only](row)
    if (isOwn || inner.length) found.push({ row, inner: only === 'all' && isSaid ? all : inner })
  }
  const by: Record<GoodsOrder, (a: GoodsRow, b: GoodsRow) => number> = {
    shown: () => 0,
    name: (a, b) => (a.name < b.name ? -1 : 1),
    price: (a, b) => (a.price ?? Infinity) - (b.price ?? Infinity),
    free: (a, b) => freeOf(a) - freeOf(b),
  }
  if (order !== 'shown') found.sort((a, b) => by[order](a.row, b.row))
  return {
    rows: found.flatMap(({ row, inner }) => (folded.has(row.product.id) ? [row] : [row, ...inner])),
    products: found.length,
  }
}
