/** The rules of Wexlow Mill's demo. Every figure and name is made up. */
import type { Rulebook } from '../../core/rulebook/rulebook'

const since = '2026-01-01T00:00:00Z'
const member = (id: string, levels: string[], roles: string[] = []) => ({
  person: { id: `tier-${id}`, name: 'A visitor' },
  ...(levels.length ? { levels: levels.map(level => ({ level, since })) } : {}),
  ...(roles.length ? { roles } : {}),
})

export const wexlowRulebook: Rulebook = {
  bravik: 'rulebook/1',
  levels: [
    { id: 'friend', name: 'Friend', rank: 10, onSignUp: true },
    { id: 'maker', name: 'Maker', rank: 20, price: { amount: 600, every: 'month' } },
    { id: 'guild', name: 'Guild', rank: 30, price: { amount: 8400, every: 'year' }, term: 'P1Y' },
  ],
  permissions: [
    { id: 'see-drafts', name: 'See drafts' },
  ],
  roles: [
    { id: 'stockist', name: 'Stockist', note: 'Shops that carry our yarn.' },
    { id: 'classroom', name: 'Classroom', note: 'Schools that knit with us.' },
    { id: 'test-knitter', name: 'Test knitter', permissions: ['see-drafts'], note: 'Knits a pattern before anyone else does.' },
    { id: 'islander', name: 'Islander', note: 'Lives on the island.' },
    { id: 'broadsheet', name: 'Correspondent of the quarterly broadsheet for handspinners', note: 'Writes about the mill.' },
    { id: 'keeper', name: 'Keeper', staff: true, note: 'Holds the master key.' },
    { id: 'page-hand', name: 'Page hand', staff: true, permissions: ['see-drafts'], note: 'Looks after pages, and proposes who may open them.' },
    { id: 'shop-hand', name: 'Shop hand', staff: true, note: 'Counts the store and takes its pictures.' },
    { id: 'front-desk', name: 'Front desk', staff: true, note: 'Knows everybody by name.' },
  ],
  facts: [
    { id: 'spindles', name: 'Spindles owned', type: 'number' },
    { id: 'hall', name: 'Guild hall', type: 'choice', choices: ['north', 'south'] },
  ],
  audiences: [
    { id: 'gansey-circle', name: 'Gansey circle', is: { any: [{ level: { atLeast: 'guild' } }, { role: { anyOf: ['test-knitter'] } }] } },
  ],
  gates: [
    { id: 'library', name: 'Technique library', on: { page: 'techniques', below: true }, open: { any: [{ level: { atLeast: 'maker' } }, { role: { anyOf: ['classroom'] } }] }, find: { everyone: true }, otherwise: { teaser: true } },
    { id: 'library-index', name: 'Library contents', on: { page: 'techniques' }, open: { everyone: true }, inherit: false, note: 'The list itself is a shop window.' },
    { id: 'gansey', name: 'Gansey course', on: { page: 'gansey', below: true }, open: { all: [{ audience: 'gansey-circle' }, { date: { from: '2026-11-01' } }] }, find: { everyone: true }, inherit: false, otherwise: { notice: { text: 'The gansey course is for the Guild and for our test knitters.', link: '/join' } } },
    { id: 'steeks', name: 'Steeks', on: { page: 'steeks' }, open: { memberFor: { atLeast: 'P30D' } }, otherwise: { guest: { redirect: { to: '/join' } }, signedIn: { notice: { text: 'Cutting comes after a month of knitting with us.' } } } },
    { id: 'winter-vat', name: 'Winter indigo', on: { page: 'indigo' }, open: { date: { from: '2026-12-01', until: '2027-02-28' } }, find: { everyone: true }, otherwise: { notice: { text: 'The indigo vat is lit on the first of December.' } } },
    { id: 'trade', name: 'Trade desk', on: { page: 'trade', below: true }, open: { role: { anyOf: ['stockist'] } } },
    { id: 'export', name: 'Export terms', on: { page: 'trade-export' }, open: { country: { in: ['GB', 'DE', 'ES'] } }, find: { everyone: true }, otherwise: { notice: { text: 'These terms are for shops outside Ireland.' } } },
    { id: 'join', name: 'Join the mill', on: { page: 'join' }, open: { signedIn: false }, otherwise: { signedIn: { redirect: { to: '/account' } } } },
    { id: 'print', name: 'Printing', on: { path: '/techniques/**?print=1' }, open: { level: { atLeast: 'guild' } }, otherwise: { notice: { text: 'Printable sheets are for the Guild.' } } },
    { id: 'hello-guild', name: 'Greeting for the Guild', on: { block: 'hello-guild' }, open: { level: { atLeast: 'guild' } } },
    { id: 'hello-member', name: 'Greeting for members', on: { block: 'hello-member' }, open: { signedIn: true } },
    { id: 'darn-chart', name: 'Darning chart', on: { block: 'darn-chart' }, open: { level: { atLeast: 'guild' } }, otherwise: { dimmed: true } },
    { id: 'wheel-hours', name: 'Wheel hours', on: { block: 'wheel-hours' }, open: { level: { in: ['maker', 'guild'] } }, otherwise: { swap: { block: 'join-card' } } },
    { id: 'ferry', name: 'Ferry banner', on: { block: 'ferry-banner' }, open: { all: [{ role: { anyOf: ['islander'] } }, { not: { device: { in: ['desktop'] } } }] } },
    { id: 'footer-trade', name: 'Footer for the trade', on: { block: 'footer-trade' }, open: { role: { anyOf: ['stockist'] } } },
    { id: 'account-invite', name: 'Invitation on the account page', on: { block: 'account-invite' }, open: { signedIn: false } },
    { id: 'open-loom', name: 'Saturday loom', on: { block: 'open-loom' }, open: { all: [{ weekday: { in: ['sat'] } }, { time: { from: '10:00', until: '16:00' } }] }, otherwise: { notice: { text: 'The open loom runs on Saturdays from ten to four.' } } },
  ],
  landings: [
    { id: 'staff', on: 'signIn', for: { role: { anyOf: ['keeper', 'page-hand', 'shop-hand', 'front-desk'] } }, to: '/loft' },
    { id: 'trade', on: 'signIn', for: { role: { anyOf: ['stockist'] } }, to: '/trade' },
    { id: 'guild', on: 'signIn', for: { level: { atLeast: 'guild' } }, to: '/techniques' },
    { id: 'others', on: 'signIn', for: { everyone: true }, to: '/account' },
    { id: 'new', on: 'signUp', for: { everyone: true }, to: '/account' },
    { id: 'out', on: 'signOut', for: { everyone: true }, to: '/' },
  ],
  tiers: [
    { id: 'guest', name: 'Guest', note: 'no account', visitor: { person: null } },
    { id: 'signed-in', name: 'Signed in', note: 'no level', visitor: member('signed-in', []) },
    { id: 'friend', name: 'Friend', note: 'free', visitor: member('friend', ['friend']) },
    { id: 'maker', name: 'Maker', note: '6.00 a month', visitor: member('maker', ['maker']) },
    { id: 'guild', name: 'Guild', note: '84.00 a year', visitor: member('guild', ['guild']) },
    { id: 'stockist', name: 'Stockist', note: 'role', visitor: member('stockist', [], ['stockist']) },
    { id: 'classroom', name: 'Classroom', note: 'role', visitor: member('classroom', [], ['classroom']) },
    { id: 'test-knitter', name: 'Test knitter', note: 'role', visitor: member('test-knitter', [], ['test-knitter']) },
    { id: 'islander', name: 'Islander', note: 'role', visitor: member('islander', [], ['islander']) },
  ],
  settings: { masterKeys: ['keeper'] },
}
