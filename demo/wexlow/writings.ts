/** Posts and patterns of Wexlow Mill. All names and figures are made up. */
import { demoThing } from './demo-thing'
import type { DemoThing } from './demo-thing'

const [topic, post, folder, download] = [
  demoThing('topic'),
  demoThing('post'),
  demoThing('folder'),
  demoThing('download'),
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

export const wexlowWritings: DemoThing[] = [...posts, ...downloads]
