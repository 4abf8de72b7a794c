/** Posts, patterns and goods of Wexlow Mill. All names and figures are made up. */
import type { VersionedThing } from '../../core/kinds/kinds'

export interface DemoThing {
  kind: VersionedThing
  key: string
  thing: Record<string, unknown>
}

const of =
  (kind: VersionedThing) =>
  (key: string, thing: Record<string, unknown>): DemoThing => ({ kind, key, thing })
const [topic, post, folder, download, category, product] = [
  of('topic'),
  of('post'),
  of('folder'),
  of('download'),
  of('category'),
  of('product'),
]

const posts = [
  topic('mill-notes', { title: 'Mill notes' }),
  topic('dye-days', { title: 'Dye days' }),
  post('wheel-mended', {
    title: 'The wheel turns again',
    author: 'Bo Lind',
    date: '2026-02-03',
    path: '/notes/wheel-mended',
    topics: ['mill-notes'],
    summary: 'Two new buckets, and a week without current.',
    words:
      'The third bucket split in the thaw. Bo cut two new ones from the larch that came down in **January**, and the wheel has turned since Tuesday.',
  }),
  post('nine-flocks', {
    title: 'Nine flocks, one scale',
    author: 'Ines Varga',
    date: '2026-07-14',
    path: '/notes/nine-flocks',
    topics: ['mill-notes'],
    summary: 'What came in at the clip, and what it weighed.',
    words: 'Nine flocks came to the scale this year. The lambs of the north end are finer than last year, and shorter.',
  }),
  post('madder-day', {
    title: 'A day at the madder vat',
    author: 'Ottilie Fern',
    date: '2026-10-05',
    path: '/notes/madder-day',
    topics: ['dye-days'],
    summary: 'Six skeins, three mordants, one afternoon.',
    words:
      'We kept the vat under sixty degrees and lifted a skein every half hour. The last one is the best red in years.',
  }),
  post('woad-sowing', {
    title: 'Sowing woad with the Guild',
    author: 'Ottilie Fern',
    date: '2026-04-20',
    path: '/notes/woad-sowing',
    topics: ['dye-days'],
    summary: 'The bed behind the carding room.',
    words: 'The Guild sowed the long bed. Who wants a row of their own finds the list by the door.',
  }),
]

const downloads = [
  folder('patterns', { title: 'Knitting patterns' }),
  folder('price-lists', { title: 'Price lists' }),
  download('harbour-cowl', {
    title: 'Harbour cowl',
    path: '/files/harbour-cowl',
    folder: 'patterns',
    summary: 'Pattern in three sizes, charted.',
    words: 'Needs one skein of Harbour Aran and a 5 mm needle. Row 31 is right: we counted it twice.',
  }),
  download('gansey-charts', {
    title: 'Gansey charts of the winter set',
    path: '/files/gansey-charts',
    folder: 'patterns',
    summary: 'Ladders, ropes and marriage lines.',
    words: 'Forty charts on twelve sheets.',
  }),
  download('trade-list', {
    title: 'Trade list, spring',
    path: '/files/trade-list',
    folder: 'price-lists',
    summary: 'Per kilo and per dozen, before tax.',
    words: 'Holds until the clip.',
  }),
]

const categories = [
  category('yarn', { title: 'Yarn', path: '/shop/yarn', summary: 'Spun here, from the nine flocks.' }),
  category('reserve', {
    title: 'Reserve dye lots',
    path: '/shop/yarn/reserve',
    parent: 'yarn',
    summary: 'Small lots, kept for the Guild until they are gone.',
  }),
  category('tools', { title: 'Tools', path: '/shop/tools', summary: 'Turned from island ash.' }),
  category('dye-plants', { title: 'Dye plants', path: '/shop/dye-plants', summary: 'Roots, leaves and seed.' }),
  category('kits', { title: 'Kits', path: '/shop/kits', summary: 'All that is needed, in one box.' }),
]

type Goods = [id: string, title: string, category: string, picture: string, price: number, stock: number, cost: number]
const goods: Goods[] = [
  ['fell-dk', 'Fell DK, 50 g', 'yarn', 'plain', 690, 214, 310],
  ['harbour-aran', 'Harbour Aran, 100 g', 'yarn', 'twill', 1180, 96, 540],
  ['tarn-lace', 'Tarn Lace, 50 g', 'yarn', 'plain', 940, 57, 455],
  ['moor-fingering', 'Moor Fingering, 100 g', 'yarn', 'plain', 1320, 71, 610],
  ['reserve-7', 'Reserve dye lot 7', 'reserve', 'diamond', 1450, 12, 720],
  ['reserve-8', 'Reserve dye lot 8', 'reserve', 'diamond', 1520, 9, 760],
  ['niddy-noddy', 'Niddy-noddy', 'tools', 'herringbone', 3200, 9, 1650],
  ['drop-spindle', 'Drop spindle', 'tools', 'herringbone', 1850, 31, 820],
  ['nostepinne', 'Nostepinne', 'tools', 'herringbone', 1400, 18, 600],
  ['madder-root', 'Madder root, 250 g', 'dye-plants', 'twill', 780, 40, 350],
  ['weld-seed', 'Weld seed', 'dye-plants', 'plain', 320, 120, 90],
  ['woad-seed', 'Woad seed', 'dye-plants', 'plain', 340, 80, 95],
  ['gansey-kit', 'Gansey kit', 'kits', 'gansey', 8900, 6, 4700],
  ['mitts-kit', 'Beginner mitts kit', 'kits', 'gansey', 2400, 22, 1180],
]

export const wexlowGoods: DemoThing[] = [
  ...posts,
  ...downloads,
  ...categories,
  ...goods.map(([id, title, within, picture, price]) =>
    product(id, { title, path: `/shop/goods/${id}`, categories: [within], price, picture, summary: '' }),
  ),
]

export const wexlowStock = goods.map(([id, , , , , pieces, cost]) => ({ product: id, pieces, cost }))
/** Whose goods they are in the loft. */
export const wexlowMakers = goods.map(([key]) => ({ kind: 'product' as const, key, madeBy: 'p-oona' }))
