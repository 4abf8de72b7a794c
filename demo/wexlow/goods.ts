/** Goods of Wexlow Mill: about sixty, some in several colours or sizes. All names and figures are made up. */
import { demoThing } from './demo-thing'
import type { DemoThing } from './demo-thing'

const [category, product, block] = [demoThing('category'), demoThing('product'), demoThing('block')]

const categories = [
  category('yarn', {
    title: 'Yarn',
    path: '/shop/yarn',
    summary: 'Spun here, from the nine flocks.',
    picture: 'plain',
  }),
  category('reserve', {
    title: 'Reserve dye lots',
    path: '/shop/yarn/reserve',
    parent: 'yarn',
    summary: 'Small lots, kept for the Guild until they are gone.',
  }),
  category('tools', { title: 'Tools', path: '/shop/tools', summary: 'Turned from island ash.' }),
  category('dye-plants', { title: 'Dye plants', path: '/shop/dye-plants', summary: 'Roots, leaves and seed.' }),
  category('kits', { title: 'Kits', path: '/shop/kits', summary: 'All that is needed, in one box.' }),
  category('by-the-sack', {
    title: 'By the sack',
    path: '/shop/by-the-sack',
    summary: 'Carded wool and cones for shops and schools.',
  }),
  category('for-gullhaven', {
    title: 'For Gullhaven Knits',
    path: '/shop/for-gullhaven',
    summary: 'Spun for one shop, with their mark on the band.',
  }),
]

interface Goods {
  id: string
  title: string
  within: string[]
  picture: string
  /** Minor units, in the demo's currency. */ price: number
  stock: number
  cost: number
  summary?: string
  sale?: { price: number; from?: string; until?: string }
  sent?: false
  gives?: { level?: string; roles?: string[] }
  /** Called by what tells it apart; with a price of its own where one is given. */
  variants?: { options: Record<string, string>; price?: number; stock: number; sale?: { price: number } }[]
}
type Line = [id: string, title: string, picture: string, price: number, stock: number, cost: number, summary?: string]

const inCategory = (within: string, lines: Line[]): Goods[] =>
  lines.map(([id, title, picture, price, stock, cost, summary]) => ({
    id,
    title,
    within: [within],
    picture,
    price,
    stock,
    cost,
    ...(summary ? { summary } : {}),
  }))

const colours = (stock: number, ...names: string[]) => names.map(colour => ({ options: { colour }, stock }))

const yarn: Goods[] = [
  {
    id: 'fell-dk',
    title: 'Fell DK, 50 g',
    within: ['yarn'],
    picture: 'plain',
    price: 690,
    stock: 0,
    cost: 310,
    summary: 'Round and springy: the yarn most people begin with.',
    variants: [
      ...colours(42, 'fleece', 'madder', 'weld', 'woad'),
      { options: { colour: 'moss' }, stock: 37 },
      { options: { colour: 'overdyed black' }, price: 760, stock: 9 },
    ],
  },
  {
    id: 'harbour-aran',
    title: 'Harbour Aran, 100 g',
    within: ['yarn'],
    picture: 'twill',
    price: 1200,
    stock: 96,
    cost: 540,
    sale: { price: 960, from: '2026-11-01', until: '2027-01-31' },
    summary: 'Three plies for wind and spray.',
  },
  {
    id: 'tarn-lace',
    title: 'Tarn Lace',
    within: ['yarn'],
    picture: 'plain',
    price: 940,
    stock: 0,
    cost: 455,
    summary: 'Two plies, four hundred metres to the fifty grams.',
    variants: [
      { options: { size: '50 g', colour: 'mist' }, stock: 31 },
      { options: { size: '50 g', colour: 'heather' }, stock: 26 },
      { options: { size: '100 g', colour: 'mist' }, price: 1790, stock: 12, sale: { price: 1590 } },
    ],
  },
  ...inCategory('yarn', [
    ['moor-fingering', 'Moor Fingering, 100 g', 'plain', 1320, 71, 610],
    ['skerry-sock', 'Skerry Sock, 100 g', 'twill', 1490, 64, 705],
    ['bothy-bulky', 'Bothy Bulky, 100 g', 'herringbone', 1080, 53, 480],
    ['lamb-first-clip', 'First clip lambswool, 50 g', 'plain', 990, 40, 520],
    ['gannet-worsted', 'Gannet Worsted, 100 g', 'twill', 1260, 88, 575],
    ['peat-tweed', 'Peat Tweed, 50 g', 'herringbone', 820, 76, 390],
    ['kelp-boucle', 'Kelp Bouclé, 50 g', 'diamond', 1140, 18, 610],
  ]),
]

const goods: Goods[] = [
  ...yarn,
  ...inCategory('reserve', [
    ['reserve-7', 'Reserve dye lot 7', 'diamond', 1450, 12, 720, 'Walnut over weld, six skeins to the lot.'],
    ['reserve-8', 'Reserve dye lot 8', 'diamond', 1520, 9, 760, 'The last of the 2024 woad.'],
    ['reserve-9', 'Reserve dye lot 9', 'diamond', 1490, 6, 755],
  ]),
  ...inCategory('tools', [
    ['niddy-noddy', 'Niddy-noddy', 'herringbone', 3200, 9, 1650, 'Two metres to the round.'],
    ['drop-spindle', 'Drop spindle', 'herringbone', 1850, 31, 820, 'Thirty grams, balanced by hand.'],
    ['nostepinne', 'Nostepinne', 'herringbone', 1400, 18, 600],
    ['hand-cards', 'Hand cards, a pair', 'twill', 4600, 14, 2450],
    ['ball-winder', 'Ball winder', 'gansey', 5400, 7, 3100],
    ['swift', 'Table swift', 'gansey', 6200, 5, 3650],
    ['needle-gauge', 'Needle gauge', 'plain', 650, 60, 210],
    ['darning-mushroom', 'Darning mushroom', 'plain', 980, 44, 380],
    ['lucet', 'Lucet', 'herringbone', 720, 38, 240],
    ['weaving-comb', 'Weaving comb', 'twill', 1250, 22, 540],
    ['inkle-loom', 'Inkle loom', 'gansey', 8400, 4, 5100],
    ['lazy-kate', 'Lazy Kate', 'herringbone', 2900, 8, 1500],
    ['blocking-wires', 'Blocking wires, twelve', 'plain', 1680, 27, 690],
    ['stitch-rings', 'Stitch rings, horn', 'diamond', 540, 90, 150],
  ]),
  ...inCategory('dye-plants', [
    ['madder-root', 'Madder root, 250 g', 'twill', 780, 40, 350],
    ['weld-seed', 'Weld seed', 'plain', 320, 120, 90],
    ['woad-seed', 'Woad seed', 'plain', 340, 80, 95],
    ['weld-dried', 'Dried weld, 200 g', 'plain', 690, 36, 280],
    ['walnut-hulls', 'Walnut hulls, 500 g', 'twill', 560, 48, 190],
    ['alum', 'Alum, 250 g', 'plain', 420, 110, 130],
    ['iron-water', 'Iron water, 500 ml', 'diamond', 480, 52, 120],
    ['woad-vat', 'Woad vat, ready to wake', 'diamond', 2400, 15, 1150],
    ['onion-skins', 'Onion skins, 100 g', 'plain', 260, 75, 40],
    ['dye-garden', 'Dye garden, six plants', 'gansey', 1950, 12, 900],
  ]),
  ...inCategory('kits', [
    ['gansey-kit', 'Gansey kit', 'gansey', 8900, 6, 4700, 'Yarn for one, charts, and five needles.'],
    ['mitts-kit', 'Beginner mitts kit', 'gansey', 2400, 22, 1180],
    ['first-spin-kit', 'First spin kit', 'herringbone', 3100, 19, 1480],
    ['dye-day-kit', 'Dye day at home', 'diamond', 3650, 13, 1720],
    ['darning-kit', 'Darning kit', 'plain', 1950, 34, 820],
    ['cowl-kit', 'Harbour cowl kit', 'twill', 2850, 17, 1390],
    ['class-spindles', 'Twelve spindles for a class', 'herringbone', 16800, 5, 9400],
    ['felt-bowl-kit', 'Felt bowl kit', 'plain', 1780, 25, 760],
    ['heddle-kit', 'First heddle kit', 'gansey', 4950, 8, 2600],
  ]),
  ...inCategory('by-the-sack', [
    ['carded-fell', 'Carded Fell, 5 kg', 'plain', 14500, 11, 8200],
    ['cone-dk', 'Fell DK on the cone, 1 kg', 'plain', 10400, 16, 6100],
    ['cone-aran', 'Harbour Aran on the cone, 1 kg', 'twill', 9900, 14, 5600],
    ['felt-sheets', 'Felt sheets, forty', 'plain', 6200, 20, 3000],
    ['bobbins-fifty', 'Bobbins, fifty', 'herringbone', 5400, 9, 2700],
  ]),
  ...inCategory('for-gullhaven', [
    ['gullhaven-dk', 'Gullhaven DK, 50 g', 'plain', 720, 240, 320],
    ['gullhaven-bag', 'Gullhaven project bag', 'twill', 1600, 75, 700],
  ]),
  {
    id: 'wheel-hire',
    title: 'Wheel on loan, a month',
    within: ['tools', 'by-the-sack'],
    picture: 'gansey',
    price: 2800,
    stock: 6,
    cost: 900,
    summary: 'For who wants to try before the long wait for one of their own.',
  },
  {
    id: 'guild-year',
    title: 'A year in the Guild',
    within: [],
    picture: 'gansey',
    price: 8400,
    stock: 1000,
    cost: 0,
    summary: 'For yourself, or given to somebody who spins already.',
    sent: false,
    gives: { level: 'guild' },
  },
]

const slug = (text: string) => text.replace(/[^a-z0-9]+/g, '-')
const variantId = (id: string, options: Record<string, string>) =>
  [id, ...Object.values(options).map(slug)].join('-').replace(/-+$/, '')

/** Grams with its wrapping, as far as its name says them; tools weigh what tools weigh. */
function weightOf(title: string): number {
  const [, count = '', unit] = /(\d+) (g|kg|ml)\b/.exec(title) ?? []
  return unit ? Math.round(Number(count) * (unit === 'kg' ? 1000 : 1) * 1.1) : 350
}
/** Plants and seed are taxed as food is. */
const taxCategoryOf = (within: readonly string[]) => (within.includes('dye-plants') ? { taxCategory: 'reduced' } : {})

const productsOf = ({
  id,
  title,
  within,
  picture,
  price,
  summary = '',
  sale,
  variants = [],
  ...more
}: Goods): DemoThing[] => [
  product(id, {
    title,
    path: `/shop/goods/${id}`,
    ...(within.length ? { categories: within } : {}),
    price,
    picture,
    summary,
    ...(more.sent === false ? { sent: false, deliveryTaxed: false } : { weight: weightOf(title) }),
    ...(more.gives ? { gives: more.gives } : {}),
    ...taxCategoryOf(within),
    ...(sale ? { sale } : {}),
  }),
  ...variants.map(({ options, price: own, sale: ownSale }) =>
    product(variantId(id, options), {
      title: `${title}, ${Object.values(options).join(', ')}`,
      path: `/shop/goods/${id}/${Object.values(options).map(slug).join('-')}`,
      of: id,
      options,
      picture,
      ...(own === undefined ? {} : { price: own }),
      ...(ownSale ? { sale: ownSale } : {}),
    }),
  ),
]

const descriptions = [
  block('fell-dk-more', {
    kind: 'text',
    in: { product: 'fell-dk' },
    title: 'How it is spun',
    body: {
      markdown:
        'From the fleece of the fell flock, spun with the grease still in it and washed once. It blooms in the first wash.',
    },
  }),
  block('fell-dk-trade', {
    kind: 'text',
    in: { product: 'fell-dk' },
    title: 'For shops',
    body: { markdown: 'Bands come without a price. Ten of one colour fill a box.' },
  }),
]

export const wexlowGoods: DemoThing[] = [...categories, ...goods.flatMap(productsOf), ...descriptions]

export const wexlowStock = goods.flatMap(({ id, stock, cost, variants = [] }) => [
  { product: id, pieces: stock, cost },
  ...variants.map(({ options, stock: pieces }) => ({ product: variantId(id, options), pieces, cost })),
])
/** Whose goods they are in the loft. */
export const wexlowMakers = wexlowGoods
  .filter(one => one.kind === 'product')
  .map(({ key }) => ({ kind: 'product' as const, key, madeBy: 'p-oona' }))
