/** Pages, blocks and the menu of Wexlow Mill. */
import { wayFromTheQuay } from './pictures'
import type { Block, FramePart } from '../../core/kinds/block'
import type { BlockBody, BlockKind } from '../../core/blocks/blocks'

export interface DemoBlock<K extends BlockKind = BlockKind> {
  id: string
  kind: K
  body: BlockBody<K>
  title?: string
  summary?: string
  oneOf?: boolean
  shares?: string
  accent?: Block['accent']
  inner?: DemoBlock[]
}
export interface DemoPage {
  id: string
  path: string
  title: string
  summary: string
  blocks: DemoBlock[]
  below?: DemoPage[]
}

const text = (id: string, markdown: string, title = ''): DemoBlock<'text'> => ({
  id,
  kind: 'text',
  title,
  body: { markdown },
})
const picture = (
  id: string,
  pattern: BlockBody<'picture'>['pattern'],
  palette: BlockBody<'picture'>['palette'],
  alt: string,
  caption?: string,
): DemoBlock<'picture'> => ({ id, kind: 'picture', body: { pattern, palette, alt, ...(caption ? { caption } : {}) } })
const call = (id: string, title: string, body: BlockBody<'call'>): DemoBlock<'call'> => ({
  id,
  kind: 'call',
  title,
  body,
})
const group = (id: string, title: string, inner: DemoBlock[], oneOf = false): DemoBlock<'group'> => ({
  id,
  kind: 'group',
  title,
  body: {},
  inner,
  oneOf,
})

const panel = (id: string, title: string, body: BlockBody<'panel'>): DemoBlock<'panel'> => ({
  id,
  kind: 'panel',
  title,
  body,
})

export const wexlowPages: DemoPage[] = [
  {
    id: 'welcome',
    path: '/',
    title: 'Welcome to the mill',
    summary: 'Wool from the island, worked on the island.',
    blocks: [
      picture('welcome-cloth', 'herringbone', 'madder', 'Herringbone cloth in madder brown'),
      group(
        'hello',
        '',
        [
          text(
            'hello-guild',
            'Good to have you back at the long table. The **winter set of gansey charts** is on the shelf: start with [welts that do not flare](/techniques/gansey/welts).',
            'Welcome, Guild',
          ),
          text(
            'hello-member',
            'Good to see you, :reader[name]{else="friend"}. Your notes are where you left them. New this month: [mending a heel](/techniques/mending) without a seam.',
            'Welcome back',
          ),
          text(
            'hello-all',
            'We wash, card, spin and dye the fleece of nine flocks, and we write down how. Anyone may look through the [contents of the library](/techniques).',
            'Come in out of the wind',
          ),
        ],
        true,
      ),
      text(
        'welcome-mill',
        'The mill stands where the Wexlow burn meets the sea. Its wheel has turned since the herring years, and the *carding room* still smells of lanolin in August.\n\nWhat we make goes three ways: yarn to knitters, cloth to tailors, and what we learn to anyone who will keep it going.',
        'The mill',
      ),
      call('welcome-join', 'Become one of us', {
        text: 'Friends come free. Makers read the whole library. The Guild keeps it.',
        label: 'See how to join',
        href: '/join',
        counted: true,
      }),
    ],
  },
  {
    id: 'techniques',
    path: '/techniques',
    title: 'Technique library',
    summary: 'Fourteen pages on knitting, dyeing, spinning and mending.',
    blocks: [
      text(
        'techniques-about',
        'Each page is written by whoever at the mill does the thing most, and corrected by whoever does it best.',
      ),
      picture('techniques-cloth', 'diamond', 'woad', 'Diamond twill in woad blue'),
      text(
        'techniques-letters',
        'A letter goes out on the first of the month: what was written, what was mended, and whose swatch won.',
        'Letters from the library',
      ),
    ],
    below: [
      {
        id: 'gansey',
        path: '/techniques/gansey',
        title: 'The gansey course',
        summary: 'A fishing jersey from the welt up, in four sittings.',
        blocks: [
          text(
            'gansey-about',
            'Work all four sittings on the same needles. The fabric should stand by itself before it is washed.',
          ),
          picture('gansey-cloth', 'gansey', 'woad', 'Knit and purl ladder pattern'),
          { id: 'gansey-files', kind: 'files', title: 'To knit from', body: { folder: 'patterns' } },
        ],
        below: [
          {
            id: 'welts',
            path: '/techniques/gansey/welts',
            title: 'Welts that do not flare',
            summary: 'Cast on fewer, raise later.',
            blocks: [
              text(
                'welts-how',
                'Cast on **a tenth fewer stitches** than the body needs, then raise them all in the first plain round above the welt.\n\nThe split keeps its edge and lies flat at the hip.',
              ),
              text(
                'welts-chart',
                '| Chest, cm | Cast on | Raise to |\n|---|---|---|\n| 92 | 252 | 280 |\n| 102 | 274 | 304 |\n| 112 | 302 | 336 |',
                'Stitch counts',
              ),
            ],
          },
          {
            id: 'gussets',
            path: '/techniques/gansey/gussets',
            title: 'Underarm gussets',
            summary: 'Room to haul a net.',
            blocks: [
              text(
                'gussets-how',
                'Begin three fingers below the armhole. Raise one stitch each side of the seam purl every fourth round until you count **nineteen**.',
              ),
            ],
          },
          {
            id: 'initials',
            path: '/techniques/gansey/initials',
            title: 'Initials above the welt',
            summary: 'So that the sea gives back the right man.',
            blocks: [
              text(
                'initials-how',
                'Purl letters on plain ground, seven rounds tall, to the left of the side seam. Ours begin with the house and end with the year.',
              ),
            ],
          },
        ],
      },
      {
        id: 'colour',
        path: '/techniques/colour',
        title: 'Two colours a round',
        summary: 'Stranded work and what follows from it.',
        blocks: [
          text(
            'colour-about',
            'Hold the ground in the right hand and the pattern in the left, always. The one carried *below* stands out. :for[Makers: the tension swatch of lesson two is yours to keep.]{who="Maker or above" else="Makers keep a tension swatch here."} Nothing here is hurried.',
          ),
        ],
        below: [
          {
            id: 'stranded',
            path: '/techniques/colour/stranded',
            title: 'Stranding without pulling',
            summary: 'Floats of five at most.',
            blocks: [
              text(
                'stranded-how',
                'Spread the last ten stitches on the needle before each change. If the float is longer than five, catch it behind the third.',
              ),
            ],
          },
          {
            id: 'steeks',
            path: '/techniques/colour/steeks',
            title: 'Cutting a steek',
            summary: 'Scissors, at last.',
            blocks: [
              text(
                'steeks-how',
                'Seven stitches, alternating colours. Crochet both edges with sewing thread, breathe, and cut **up the middle of the fourth**.',
              ),
            ],
          },
        ],
      },
      {
        id: 'dyeing',
        path: '/techniques/dyeing',
        title: 'Dye plants',
        summary: 'Red, yellow and blue from the garden wall.',
        blocks: [
          text(
            'dyeing-about',
            'Weigh dry, wash twice, keep a card of every pot. The mordant is alum unless the page says otherwise.',
          ),
        ],
        below: [
          {
            id: 'madder',
            path: '/techniques/dyeing/madder',
            title: 'Madder, slowly',
            summary: 'Brick red under sixty degrees.',
            blocks: [
              text(
                'madder-how',
                'Soak the chopped root overnight in chalky water. Raise by ten degrees an hour and never past **fifty-eight**.',
              ),
              picture('madder-cloth', 'plain', 'madder', 'A swatch of madder red'),
            ],
          },
          {
            id: 'weld',
            path: '/techniques/dyeing/weld',
            title: 'Weld',
            summary: 'The clearest yellow there is.',
            blocks: [
              text(
                'weld-how',
                'Cut it in flower, twice its weight to the wool. A spoon of washing soda at the end turns it from straw to **lemon**.',
              ),
            ],
          },
          {
            id: 'indigo',
            path: '/techniques/dyeing/indigo',
            title: 'The winter indigo vat',
            summary: 'From the first of December.',
            blocks: [
              text(
                'indigo-how',
                'Feed the vat bran and madder at night. It is ready when the surface is coppery and the liquid below **yellow as cider**.',
              ),
            ],
          },
        ],
      },
      {
        id: 'spinning',
        path: '/techniques/spinning',
        title: 'At the wheel',
        summary: 'Woollen from the fold, worsted from the comb.',
        blocks: [
          text('spinning-about', 'Oil the flyer before you sit down, not after it squeaks.'),
          text(
            'wheel-hours',
            'Wheels three to eight are yours on weekday evenings. The key hangs behind the **blue crock**.',
            'Wheel hours for members',
          ),
        ],
        below: [
          {
            id: 'long-draw',
            path: '/techniques/spinning/long-draw',
            title: 'The long draw',
            summary: 'Air in the yarn.',
            blocks: [
              text(
                'long-draw-how',
                'Let the twist run into an arm’s length of unspun wool, then pull until the slubs melt. Stop *before* it drifts apart.',
              ),
            ],
          },
        ],
      },
      {
        id: 'mending',
        path: '/techniques/mending',
        title: 'Mending a heel',
        summary: 'A darn that is knitted, not sewn.',
        blocks: [
          text(
            'mending-how',
            'Pick up the sound stitches two rows below the hole and knit a patch upwards, taking one from each side as you go.',
          ),
          text(
            'darn-chart',
            'Row 1: slip one, knit eleven, join left.\n\nRow 2: slip one, purl eleven, join right. Repeat until the patch is **two rows past** the hole.',
            'Chart for a heel of twelve',
          ),
        ],
      },
    ],
  },
  {
    id: 'shop',
    path: '/shop',
    title: 'The mill shop',
    summary: 'What leaves the island by the Friday boat.',
    blocks: [
      text(
        'shop-kit-ahead',
        'There is a kit in your basket. Once it is yours, the [kit bench](/shop/kit-bench) is open to you: corrections, spare yarn, and somebody to ask.',
        'A seat is kept for you',
      ),
      { id: 'shop-shelves', kind: 'list', title: 'Shelves', body: { of: { kind: 'category' } } },
      {
        id: 'shop-window',
        kind: 'goods',
        title: 'In the window',
        body: {
          of: {
            products: [
              'fell-dk',
              'harbour-aran',
              'tarn-lace',
              'niddy-noddy',
              'mitts-kit',
              'reserve-7',
              'cone-dk',
              'woad-vat',
            ],
          },
        },
      },
    ],
    below: [
      {
        id: 'kit-bench',
        path: '/shop/kit-bench',
        title: 'The kit bench',
        summary: 'Corrections and spare yarn, for whoever bought one of our kits.',
        blocks: [
          text(
            'kit-bench-corrections',
            'Mitts: the thumb begins in **round 22**, not 20. Gansey: the neck is worked over 96 stitches in the two smallest sizes.',
            'Corrections',
          ),
          text(
            'kit-bench-spare',
            'Ran short? Tell us the number on the band of your kit, and a skein of the same pot comes with the next boat, as long as there is one.',
            'Spare yarn',
          ),
        ],
      },
    ],
  },
  {
    id: 'trade',
    path: '/trade',
    title: 'Trade desk',
    summary: 'For shops that carry our yarn.',
    blocks: [
      text('trade-about', 'Orders placed before Thursday noon leave on the Friday boat. Ask for Oona.'),
      { id: 'trade-files', kind: 'files', title: 'To take along', body: { folder: 'price-lists' } },
    ],
    below: [
      {
        id: 'trade-prices',
        path: '/trade/prices',
        title: 'Trade prices',
        summary: 'By the kilo, from ten kilos.',
        blocks: [
          text(
            'trade-table',
            '| Yarn | 10 kg | 50 kg |\n|---|---|---|\n| Fell DK | 46.70 | 42.40 |\n| Harbour Aran | 43.10 | 39.00 |',
            'Per kilo, before tax',
          ),
        ],
      },
      {
        id: 'trade-lookbook',
        path: '/trade/lookbook',
        title: 'Spring lookbook',
        summary: 'Eleven garments, four weights.',
        blocks: [
          picture('lookbook-cloth', 'twill', 'moss', 'Twill in moss green', 'Spring colours'),
          text(
            'lookbook-words',
            'Embargoed until the fair on the ninth of March. Window cards come with the first order.',
          ),
        ],
      },
      {
        id: 'trade-export',
        path: '/trade/export',
        title: 'Export terms',
        summary: 'Papers and parcels abroad.',
        blocks: [
          text(
            'export-words',
            'We carry the customs papers; you carry the freight above twenty kilos. Origin statement number **WM-0417**.',
          ),
        ],
      },
    ],
  },
  {
    id: 'visit',
    path: '/visit',
    title: 'Visit the mill',
    summary: 'The boat, the path and the opening hours.',
    blocks: [
      {
        ...text(
          'visit-how',
          'Take the morning boat to Wexlow quay and follow the burn uphill for twenty minutes. The door with the red latch is never locked.',
        ),
        accent: { look: 'bar', for: { role: { anyOf: ['islander'] } } },
      },
      text(
        'visit-poster',
        'You found us by the poster at the quay: show it at the door, and the first cup is ours.',
        'From the poster',
      ),
      text(
        'visit-wheel',
        'A wheel of ours is with you: bring it along when you come, somebody waits for it.',
        'On loan',
      ),
      text(
        'open-loom',
        'The big loom is threaded with plain ground today: sit down and throw the shuttle. **Mind the treadle.**',
        'Open loom',
      ),
      picture('visit-cloth', 'plain', 'fleece', 'Undyed plain weave'),
      { id: 'visit-kettle', kind: 'shared', shares: 'kettle', body: {} },
    ],
    below: [
      {
        id: 'ferry',
        path: '/visit/ferry',
        title: 'Boats',
        summary: 'Twice a day, weather willing.',
        blocks: [
          text('ferry-times', 'Out at 8:10 and 15:40, back at 9:30 and 17:00. In an easterly, ring the quay.'),
          { id: 'ferry-kettle', kind: 'shared', shares: 'kettle', body: {} },
          text(
            'ferry-abroad',
            'From abroad: the night train meets the 8:10, and the quay takes cards.',
            'Coming from further away',
          ),
        ],
      },
      {
        id: 'north-quay',
        path: '/visit/from-the-north-quay-when-the-coastal-path-is-under-water',
        title: 'Finding the mill from the north quay when the coastal path is under water',
        summary: 'Follow the drystone wall inland.',
        blocks: [
          text(
            'north-quay-way',
            'Keep the wall on your left hand until the second stile, then walk towards the smell of sheep.',
          ),
          {
            id: 'north-quay-map',
            kind: 'picture',
            body: {
              file: wayFromTheQuay,
              alt: 'A drawn map: the coastal path leads from the north quay south-west to the mill.',
              caption: 'The coastal path, when it is dry.',
            },
          },
        ],
      },
    ],
  },
  {
    id: 'join',
    path: '/join',
    title: 'Join the mill',
    summary: 'Friend, Maker or Guild.',
    blocks: [
      text(
        'join-levels',
        '**Friend**, free: letters from the mill and a place at open days.\n\n**Maker**, 6.00 a month: the whole technique library.\n\n**Guild**, 84.00 a year: the gansey course, charts, and the wheels on weekday evenings.',
      ),
      { id: 'sign-in-here', kind: 'signIn', title: 'One of us already?', body: { text: 'Then it is here for you.' } },
      call('join-card', 'Join the mill', {
        text: 'It takes a name, an address and a password. Levels are bought from your account.',
        label: 'Sign up',
        href: '/sign-up',
        counted: true,
      }),
    ],
  },
  {
    id: 'account',
    path: '/account',
    title: 'Your account',
    summary: 'What you hold at the mill.',
    blocks: [
      { id: 'account-card', kind: 'account', body: {} },
      call('account-invite', 'Not one of us yet?', {
        text: 'Friends come free: letters from the mill, and a place at open days.',
        label: 'Sign up',
        href: '/sign-up',
      }),
      {
        id: 'account-home',
        kind: 'panels',
        body: {},
        inner: [
          panel('home-levels', 'Your levels', { shows: 'levels' }),
          panel('home-up', 'One level up', { shows: 'up' }),
          panel('home-yours', 'Yours to open', { shows: 'yours' }),
          panel('home-soon', 'Opens soon', { shows: 'soon' }),
          {
            id: 'home-code',
            kind: 'code',
            title: 'Thanks for the dye days',
            body: { text: 'A code of your own, for twelve off a hundred on dye plants.', offer: 'dye-day-thanks' },
          },
          panel('home-gansey', 'The gansey course', {
            shows: 'words',
            text: 'Welts, gussets and the harbour pattern, in the order they are knitted.',
            page: 'gansey',
            label: 'Go on knitting',
            pattern: 'gansey',
            palette: 'woad',
          }),
          panel('home-trade', 'Trade prices', {
            shows: 'words',
            text: 'By the kilo, from ten kilos.',
            page: 'trade-prices',
            label: 'See the prices',
            pattern: 'herringbone',
            palette: 'madder',
          }),
          panel('home-firm', 'Your firm', { shows: 'firm' }),
          panel('home-apply', 'Asking for more', { shows: 'applications' }),
          panel('home-payments', 'What you paid', { shows: 'payments' }),
          panel('home-profile', 'Profile', { shows: 'profile' }),
          panel('home-sessions', 'Signed in at', { shows: 'sessions' }),
        ],
      },
    ],
  },
]

export const wexlowFrame: { frame: FramePart; block: DemoBlock }[] = [
  { frame: 'banner', block: text('ferry-banner', 'Islanders: the 15:40 boat waits for the school today.') },
  {
    frame: 'shelf',
    block: text(
      'kettle',
      'The kettle is on from three, and there is a bed for whoever misses the last boat.',
      'For our own',
    ),
  },
  { frame: 'footer', block: { id: 'footer-search', kind: 'search', body: {} } },
  { frame: 'footer', block: { id: 'footer-menu', kind: 'menu', body: { menu: 'foot' } } },
  {
    frame: 'footer',
    block: text('footer-about', 'Wexlow Mill, at the burn mouth. All names and figures here are made up.'),
  },
  {
    frame: 'footer',
    block: text('footer-trade', 'Trade orders: Thursday noon for the Friday boat. [Trade desk](/trade)'),
  },
]

export interface DemoEntry {
  id: string
  label: string
  labelIn?: string
  to: Record<string, string>
  whenRefused?: 'locked'
}
export const wexlowMenu: DemoEntry[] = [
  { id: 'm-techniques', label: 'Techniques', to: { page: 'techniques' } },
  { id: 'm-gansey', label: 'Gansey course', to: { page: 'gansey' }, whenRefused: 'locked' },
  { id: 'm-shop', label: 'Shop', to: { page: 'shop' } },
  { id: 'm-visit', label: 'Visit', to: { page: 'visit' } },
  { id: 'm-trade', label: 'Trade desk', to: { page: 'trade' } },
  { id: 'm-join', label: 'Join', to: { page: 'join' } },
  { id: 'm-basket', label: 'Basket', to: { own: 'basket' } },
  { id: 'm-account', label: 'Account', to: { page: 'account' } },
  { id: 'm-entrance', label: 'Sign in', labelIn: 'Sign out', to: { own: 'entrance' } },
]
/** What else there is to find, at the foot of every page. */
export const wexlowFootMenu: DemoEntry[] = [
  { id: 'f-ferry', label: 'Boats', to: { page: 'ferry' } },
  { id: 'f-notes', label: 'A day at the madder vat', to: { post: 'madder-day' } },
  { id: 'f-prices', label: 'Trade prices', to: { page: 'trade-prices' } },
]
