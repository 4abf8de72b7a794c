/** What was bought at Wexlow Mill of late. All names, addresses and figures are made up. */
import type { PostalAddress } from '../../core/orders/order'

export interface DemoOrder {
  /** Of the demo's people; without it, somebody who bought as a guest. */ person?: string
  name: string
  email: string
  lines: [product: string, quantity: number][]
  address: PostalAddress
  delivery: string
  daysAgo: number
  state: 'placed' | 'paid' | 'sent'
  note?: string
}

const at = (country: string, lines: string, town: string, postcode: string, region?: string): PostalAddress => ({
  country,
  lines,
  town,
  postcode,
  ...(region ? { region } : {}),
})
const stella = {
  person: 'p-stella',
  name: 'Stella Brand',
  email: 'stella@gullhaven.example',
  address: at('IE', 'Harbour Street 9', 'Gullhaven', 'GH2 11'),
}
const clem = {
  person: 'p-clem',
  name: 'Clem Ashe',
  email: 'clem@northschool.example',
  address: at('IE', 'North School, Chapel Hill', 'Wexlow', 'WX2 NS'),
}
const mako = {
  person: 'p-mako',
  name: 'Mako Strand',
  email: 'mako@wexlow.example',
  address: at('IE', 'Weir Cottage', 'Wexlow', 'WX1 04'),
}
const guest = (name: string, address: PostalAddress) => ({
  name,
  email: `${name.toLowerCase().replace(/[^a-z]+/g, '.')}@buyers.example`,
  address,
})

export const wexlowOrders: DemoOrder[] = [
  {
    ...stella,
    lines: [
      ['fell-dk-madder', 30],
      ['fell-dk-weld', 20],
      ['drop-spindle', 4],
    ],
    delivery: 'carrier',
    daysAgo: 58,
    state: 'sent',
  },
  {
    ...guest('Runa Teal', at('ES', 'Calle del Faro 4', 'Las Palmas', '35002')),
    lines: [['gansey-kit', 1]],
    delivery: 'abroad',
    daysAgo: 51,
    state: 'sent',
  },
  {
    ...clem,
    lines: [
      ['class-spindles', 1],
      ['felt-bowl-kit', 6],
    ],
    delivery: 'carrier',
    daysAgo: 44,
    state: 'sent',
    note: 'By the start of term, please.',
  },
  {
    ...mako,
    lines: [
      ['first-spin-kit', 1],
      ['lucet', 1],
    ],
    delivery: 'post',
    daysAgo: 37,
    state: 'sent',
  },
  {
    ...guest('Ottilie Marsh', at('DE', 'Am Deich 12', 'Husum', '25813')),
    lines: [['harbour-aran', 6]],
    delivery: 'abroad',
    daysAgo: 33,
    state: 'sent',
  },
  {
    ...guest('Bram Coll', at('GB', '7 Staithe Lane', 'Whitby', 'YO21 3')),
    lines: [
      ['niddy-noddy', 1],
      ['blocking-wires', 1],
    ],
    delivery: 'abroad',
    daysAgo: 27,
    state: 'sent',
  },
  { ...stella, lines: [['gullhaven-dk', 60]], delivery: 'carrier', daysAgo: 20, state: 'sent' },
  {
    ...guest('Juno Reyes', at('US', '88 Alder Street', 'Astoria', '97103', 'US-OR')),
    lines: [
      ['dye-garden', 1],
      ['alum', 2],
    ],
    delivery: 'overseas',
    daysAgo: 15,
    state: 'sent',
  },
  {
    ...guest('Petra Holt', at('IE', 'Shore Road 3', 'Inver', 'IN4 02')),
    lines: [['mitts-kit', 2]],
    delivery: 'post',
    daysAgo: 9,
    state: 'sent',
  },
  {
    ...guest('Aino Berg', at('ES', 'Rambla 31', 'Girona', '17001')),
    lines: [
      ['weld-seed', 3],
      ['woad-seed', 3],
    ],
    delivery: 'abroad',
    daysAgo: 5,
    state: 'paid',
  },
  {
    ...mako,
    lines: [['moor-fingering', 3]],
    delivery: 'collect',
    daysAgo: 3,
    state: 'paid',
    note: 'I come by on Thursday.',
  },
  {
    ...clem,
    lines: [
      ['madder-root', 4],
      ['alum', 4],
    ],
    delivery: 'carrier',
    daysAgo: 2,
    state: 'paid',
  },
  {
    ...guest('Sorley Finn', at('IE', 'Ferry House', 'Wexlow', 'WX1 00')),
    lines: [['swift', 1]],
    delivery: 'post',
    daysAgo: 1,
    state: 'paid',
  },
  {
    ...guest('Ines Colm', at('GB', '2 Mill Row', 'Hawick', 'TD9 7')),
    lines: [['fell-dk-woad', 4]],
    delivery: 'abroad',
    daysAgo: 1,
    state: 'paid',
  },
]
