/** The till: where it goes, how, and what it comes to, one step after the other; nothing said is lost on the way back. */
import { inTransaction } from '../db/turn'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import { givesOf } from '../../core/kinds/product'
import { countryCodes } from '../../core/site/countries'
import { codesPlace } from '../../core/pages/goods/codes-view'
import { quoteBasket } from '../../core/orders/basket-quote'
import type { BasketQuote, WayOffered } from '../../core/orders/basket-quote'
import type { Reduction } from '../../core/orders/reductions'
import { isTaxed } from '../../core/tax/tax-trail'
import { word } from '../../core/site-words/site-words'
import type { Visitor } from '../../core/visitor/visitor'
import { db } from '../db/database'
import { networkOf } from '../forwarded'
import { Problem } from '../problem'
import { visitorOver } from '../request/facts'
import { withServiceFacts } from '../services/facts/settled-caller'
import { keepStock, keptUntil } from '../services/orders/held-stock'
import type { Keeper } from '../services/orders/held-stock'
import { placeOrder } from '../services/orders/place'
import { chooseDelivery, saveTill, tillName, tillOf, toSend } from '../services/orders/tills'
import type { TillRow } from '../services/orders/tills'
import { orderWorld } from '../services/orders/world'
import { payAddress } from '../services/payments/stand-in'
import { countTry } from '../services/secrets/throttle'
import { guestLines, keepGuestLines, linesOf } from './basket-held'
import { holderFor, holderOf } from './guest-holder'
import { pricedLines, reasonsOf, titleFor } from './basket'
import type { BasketLineShown } from './basket'
import { refused } from './own-page'
import type { Acted, OwnAsk, OwnPage } from './own-page'

export interface TillData {
  step: 'where' | 'look'
  /** What was said before, for the form. */ said: Record<string, string>
  countries: string[]
  /** Regions that make a difference, of ISO 3166-2. */ regions: string[]
  /** Something in the basket can be given to somebody else. */ givesSomething: boolean
  /** Nothing of the basket keeps it from being paid. */ ready: boolean
  ways: WayOffered[]
  chosen: string | null
  nowhere: boolean
  lines: BasketLineShown[]
  receipt: BasketQuote['receipt']
  /** Why something is taken off the basket as a whole. */ off: Reduction | null
  keptUntil: string | null
  /** Where a code is given; null where no offer takes one. */ codes: string | null
  currency: string
  timezone: string
}

/** Where anything is sent; everywhere, where some way has no end or nothing is sent. */
function countriesOf({ caller }: OwnAsk, sent: boolean): string[] {
  const ways = (caller.snapshot.rules.rulebook.deliveries ?? []).filter(one => one.active !== false)
  const places = ways.flatMap(one => one.to ?? [{}])
  if (!sent || places.some(one => one.country === undefined)) return [...countryCodes]
  return [...new Set(places.map(one => one.country!))]
}

function regionsOf({ caller }: OwnAsk): string[] {
  const { deliveries = [], tax } = caller.snapshot.rules.rulebook
  const places = [...deliveries.flatMap(one => one.to ?? []), ...(tax?.rates ?? []).map(one => one.place)]
  return [...new Set(places.flatMap(one => one.region ?? []))].sort()
}

const saidIn = (row: TillRow | null, { caller }: OwnAsk): Record<string, string> => {
  const { person } = caller.visitor
  if (!row)
    return { name: person?.name ?? '', email: person?.email ?? '', country: caller.visitor.request?.country ?? '' }
  const { address, name, email, note, gift } = row
  return {
    name,
    email,
    note,
    lines: address.lines,
    town: address.town,
    postcode: address.postcode ?? '',
    country: address.country,
    region: address.region ?? '',
    gift: gift ?? '',
  }
}

const fieldWords = {
  name: 'wrong.name',
  email: 'wrong.email',
  gift: 'wrong.email',
  lines: 'wrong.address-line',
  town: 'wrong.town',
  country: 'wrong.country',
} as const

export const tillPage: OwnPage<TillData> = {
  path: '/till',
  script: true,
  async load(ask) {
    const { event, caller, rest } = ask
    const holder = holderOf(event, caller)
    const row = holder && (await tillOf(db(), holder))
    const isLook = rest[0] === 'look' && row !== null
    const lines = await linesOf(ask)
    const { lines: shown, ready, quote: atBasket, kept } = await pricedLines(ask, lines)
    const asked = kept.map(({ product, quantity }) => ({ product, quantity }))
    const quote = isLook
      ? quoteBasket(caller.decider, { lines: asked, sentTo: row.address, delivery: row.delivery, when: 'pay' })
      : atBasket
    const reasons = reasonsOf(caller, quote, isLook ? 'pay' : 'basket')
    const { index } = caller.snapshot.rules
    const until = isLook && holder ? await keptUntil(db(), tillName(holder)) : null
    return {
      step: isLook ? 'look' : 'where',
      said: saidIn(row, ask),
      countries: countriesOf(ask, quote.sent),
      regions: regionsOf(ask),
      givesSomething: kept.some(({ product }) => givesTo(ask, product)),
      ready,
      ways: quote.ways,
      chosen: quote.chosen?.id ?? null,
      nowhere: isLook && quote.sent && !quote.ways.length,
      lines: isLook ? asPaid(shown, quote, reasons) : shown,
      receipt: quote.receipt,
      off: reasons.off,
      keptUntil: until?.toISOString() ?? null,
      codes: codesPlace(caller.decider, '/till/look', '') ?? null,
      currency: index.site.currency ?? 'EUR',
      timezone: index.site.timezone,
    }
  },
  async asks(ask) {
    const { event, caller } = ask
    const { kept } = await pricedLines(ask, await linesOf(ask))
    const holder = holderOf(event, caller)
    const row = holder && (await tillOf(db(), holder))
    if (!row) return
    const lines = kept.map(({ product, quantity }) => ({ product, quantity }))
    quoteBasket(caller.decider, { lines, sentTo: row.address, delivery: row.delivery, when: 'pay' })
  },
  async act(ask, form) {
    // Placing asks first whether it was placed already: of a person nothing lies in the basket by then.
    if (ask.rest[0] === 'look' && form.way === undefined) return place(ask, form)
    if (!(await linesOf(ask)).length) return { to: '/basket' }
    if (ask.rest[0] !== 'look') return sayWhere(ask, form)
    const holder = holderOf(ask.event, ask.caller)
    if (holder) await chooseDelivery(db(), holder, form.way!.slice(0, 200))
    return { to: '/till/look' }
  },
}

/** Lines by how prices show when one pays. */
function asPaid(
  lines: readonly BasketLineShown[],
  { basket, receipt, shown }: BasketQuote,
  reasons: ReturnType<typeof reasonsOf>,
): BasketLineShown[] {
  let at = 0
  return lines.map((line, i) => {
    const priced = basket.lines[i]!
    if (!isTaxed(priced)) return line
    const { was: _, off: _off, roundedFrom: _from, ...rest } = line
    return { ...rest, ...reasons.lines[i], each: priced.each[shown.pay], amount: receipt.lines[at++]!.amount }
  })
}

const givesTo = ({ caller }: OwnAsk, product: string) => {
  const { index } = caller.snapshot.rules
  return givesOf(index.get('product', product), index) !== undefined
}

async function sayWhere(ask: OwnAsk, form: Record<string, string>): Promise<Acted> {
  const { event, caller } = ask
  const typed = Object.fromEntries(
    (['name', 'email', 'lines', 'town', 'postcode', 'country', 'region', 'note', 'gift'] as const).flatMap(key => {
      const value = (form[key] ?? '').trim()
      return value || !['region', 'gift'].includes(key) ? [[key, value]] : []
    }),
  )
  const read = toSend.safeParse(typed)
  if (!read.success) {
    const problems = Object.fromEntries(
      read.error.issues.map(({ path, message }) => {
        const field = String(path[0]) as keyof typeof fieldWords
        return [field, fieldWords[field] ? word(fieldWords[field]) : message]
      }),
    )
    return refused(problems, form)
  }
  // A region lies in its country.
  const { region, ...rest } = read.data
  const said = region?.startsWith(`${rest.country}-`) ? { ...rest, region } : rest
  await countTry(db(), [{ what: 'till', of: networkOf(event), most: 60, windowMs: 10 * 60_000 }], 'tries')
  const { holder, remember } = holderFor(event, caller)
  remember()
  const lines = await linesOf(ask)
  // Said where it can be answered; asked again when the order is placed.
  if (!caller.signedIn && !said.gift && lines.some(({ product }) => givesTo(ask, product)))
    return refused({ gift: word('wrong.gives-after-sign-in') }, form)
  const title = (id: string) => titleFor(caller, id) ?? '…'
  await inTransaction(db(), async tx => {
    await saveTill(tx, holder, said)
    await keepStock(tx, lines, { till: tillName(holder), title, keeper: keeperFor(ask) })
  })
  return { to: '/till/look' }
}

const keeperFor = ({ event, caller }: OwnAsk): Keeper =>
  caller.signedIn ? { person: caller.signedIn.personId } : { network: networkOf(event) }

async function place(ask: OwnAsk, form: Record<string, string>): Promise<Acted> {
  const { event, caller } = ask
  const holder = holderOf(event, caller)
  if (!holder) throw new Problem('till-empty')
  const agreed = /^\d{1,12}$/.test(form.agreed ?? '') ? Number(form.agreed) : -1
  await countTry(db(), [{ what: 'order', of: networkOf(event), most: 60, windowMs: 10 * 60_000 }], 'tries')
  const { snapshot, nowMs } = caller
  const { rulebook } = snapshot.rules
  const { order } = await placeOrder(db(), {
    snapshot,
    world: orderWorld(snapshot),
    holder,
    keeper: keeperFor(ask),
    guestLines: guestLines(event),
    agreed,
    deciderOf: (person: Visitor | null) =>
      person
        ? new CompiledDecider(
            snapshot.rules,
            withServiceFacts(rulebook, visitorOver(event, rulebook, person), caller.decider.visitor),
            nowMs,
          )
        : caller.decider,
  })
  if (!caller.signedIn) keepGuestLines(event, [])
  return { to: order.gross > 0 ? payAddress(order.reference) : `/order/${order.id}` }
}
