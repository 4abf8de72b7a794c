/** What an invoice says of those it is between, and of why no tax is taken, in the words of the site. */
import type { WordKey } from '../site-words/english'
import type { InvoiceBody, InvoiceLine } from './order'
import type { Say } from './reduction-words'
import type { VatCategory } from './vat-category'

const whys: Partial<Record<VatCategory, WordKey>> = {
  E: 'paper.exempt',
  AE: 'paper.owed',
  G: 'paper.export',
  O: 'paper.outside',
}
/** Nothing where a tax is taken, be it at nought. */
export const whyWord = (category: VatCategory): WordKey | undefined => whys[category]

/** Each reason once, in the order of the lines. */
export const reasonsOf = ({ lines, delivery }: Pick<InvoiceBody, 'lines' | 'delivery'>, say: Say): string[] => [
  ...new Set(
    [...lines, ...(delivery ? [delivery] : [])].flatMap(({ vat }) => {
      const why = vat && whyWord(vat.category)
      return why ? [vat.reason ?? say(why)] : []
    }),
  ),
]

/** The percentages on a line, or that the buyer owes it. */
export const taxesOfLine = ({ taxes, vat }: InvoiceLine): string =>
  vat?.category === 'AE' ? '–' : taxes.map(one => `${one.called} ${one.percent} %`).join(', ') || '–'

interface Party {
  name: string
  address: InvoiceBody['seller']['address']
  email?: string
  register?: string
  vatNumber?: string
  taxNumber?: string
}
/** Name, address and numbers, a line each; `country`: what one is called. */
export const partyLines = (
  { name, address, email, register, vatNumber, taxNumber }: Party,
  { say, country }: { say: Say; country(code: string): string | undefined },
): string[] =>
  [
    name,
    ...(address.lines ?? '').split('\n'),
    [address.postcode, address.town].filter(Boolean).join(' '),
    address.country ? (country(address.country) ?? address.country) : '',
    register ?? '',
    vatNumber ? say('paper.vat-number', { number: vatNumber }) : '',
    taxNumber ? say('paper.tax-number', { number: taxNumber }) : '',
    email ?? '',
  ].filter(one => one.trim() !== '')
