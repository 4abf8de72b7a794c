/** Buying, as those who buy see it: in browsers, over HTTP, with mail. */
import { desc, eq, sql } from 'drizzle-orm'
import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import {
  invoice,
  mailKept,
  moneyBack,
  noticeDue,
  paymentNotice,
  shopOrder,
  siteState,
  stock,
} from '../../server/db/schema'
import { readEnvironmentAnew } from '../../server/environment'
import { signature } from '../../server/services/secrets/tokens'
import { signedIn, startApplication, testSecret } from '../support/application'
import type { Application } from '../support/application'
import { launchBrowser, newPageOf } from '../support/browser'
import { comeIn } from '../support/come-in'

let application: Application
let browser: Browser
beforeAll(async () => {
  process.env.BRAVIK_SECRET = testSecret
  readEnvironmentAnew()
  ;[application, browser] = await Promise.all([startApplication(), launchBrowser()])
})
afterAll(async () => {
  await browser.close()
  await application.stop()
})

const address = {
  Name: 'Una Best',
  'Mail address': 'una@elsewhere.example',
  Street: '3 Quay Row',
  Postcode: 'WX1',
  Town: 'Wexlow',
}
async function put(page: Page, product: string, count: number): Promise<void> {
  await page.goto(`${application.url}/shop/goods/${product}`)
  await page.getByLabel('How many').fill(String(count))
  await page.getByRole('button', { name: 'Put in the basket' }).click()
  await page.waitForURL('**/basket')
}
/** From the basket to where it goes, and on. */
async function sayWhere(page: Page, said: Partial<typeof address> = {}): Promise<void> {
  await page.getByRole('button', { name: 'Go to the till' }).click()
  await page.waitForURL('**/till')
  for (const [label, value] of Object.entries({ ...address, ...said }))
    await page
      .getByLabel(label, { exact: label !== 'Street' })
      .first()
      .fill(value)
  await page.getByLabel('Country').selectOption('IE')
  await page.getByRole('button', { name: 'Look it over' }).click()
}
/** From the basket to the last look before paying, where the way is taken as it is chosen; without scripts by the button. */
async function toTheLook(
  page: Page,
  way: string,
  { scripts = true, ...said }: Partial<typeof address> & { scripts?: boolean } = {},
): Promise<void> {
  await sayWhere(page, said)
  await page.waitForURL('**/till/look')
  await page.getByText('Choose how it gets there, then you can order.').waitFor()
  expect(await page.getByRole('button', { name: /Order and pay/ }).isDisabled()).toBe(true)
  const shown = await page.locator('.deliveries label', { hasText: way }).locator('b').innerText()
  await page.getByLabel(way).check()
  if (!scripts) await page.getByRole('button', { name: 'Take this way' }).click()
  // It costs what it showed before it was taken.
  await page.getByRole('row', { name: `Delivery ${way} ${shown}` }).waitFor()
}
const rows = async (page: Page) =>
  (await page.locator('table.receipt tr').allInnerTexts()).map(text => text.replace(/\s+/g, ' ').trim())
async function pay(page: Page, answer = 'Approve'): Promise<string> {
  await page.getByRole('button', { name: /Order and pay/ }).click()
  await page.waitForURL('**/pay/*')
  await page.getByRole('button', { name: answer, exact: true }).click()
  await page.waitForURL('**/order/*')
  return page.url().split('/').at(-1)!
}

/** From the form to the account, with the mail that confirms the address. */
async function signUp(page: Page, name: string, email: string): Promise<void> {
  await page.getByLabel('Name').fill(name)
  await page.getByLabel('E-mail address').fill(email)
  await page.getByLabel('Password').first().fill('three quay row, wexlow')
  await page.getByRole('button', { name: /Sign up|Make/ }).click()
  await page.waitForURL('**/signed-up**')
  await page.goto(await linkIn(email, /http\S+\/confirm\?token=\S+/))
  await page.getByLabel('Password').fill('three quay row, wexlow')
  await page.getByRole('button', { name: /Confirm/ }).click()
  await page.waitForURL('**/account**')
}

/** A link in the newest mail to somebody that holds one, once it was sent. */
async function linkIn(email: string, link: RegExp): Promise<string> {
  const { db } = application.database
  const found = async () => {
    const mails = await db.select().from(mailKept).where(eq(mailKept.recipient, email)).orderBy(desc(mailKept.id))
    return mails.map(one => link.exec(one.plain)?.[0]).find(Boolean)
  }
  await expect.poll(found, { timeout: 20_000 }).toBeTruthy()
  return (await found())!.replace(/^https?:\/\/[^/]+/, application.url)
}

describe('buying', () => {
  it('a stockist buys by the bag: the step without tax in the list and the basket, with it at the till', async () => {
    const page = await newPageOf(browser)
    await comeIn(page, application.url, 'stella@gullhaven.example', '/shop/goods/fell-dk/woad')
    expect(await page.locator('.steps li').allInnerTexts()).toEqual(['from 10 on €3.45 each', 'from 50 on €3.09 each'])
    await put(page, 'fell-dk/woad', 10)
    expect(await rows(page)).toEqual([
      'Fell DK, 50 g, woad €3.45 each 38.5 % off from 10 on rounded; reckoned on €4.24 with tax Take out €34.47',
      'plus VAT 23 % €7.93',
      'In all €42.40',
    ])
    await toTheLook(page, 'By carrier, in sacks')
    expect(await rows(page)).toEqual([
      '10 × Fell DK, 50 g, woad 38.5 % off from 10 on €42.40',
      'Delivery By carrier, in sacks €9.59',
      'of which VAT 23 % €9.72',
      'In all €51.99',
    ])
    const id = await pay(page, 'Approve, tell twice')
    await page.getByText('Thank you. It is paid').waitFor()
    // Told once more, it is paid once all the same.
    const { db } = application.database
    const [order] = await db.select().from(shopOrder).where(eq(shopOrder.id, id))
    const due = () => db.$count(noticeDue, eq(noticeDue.reference, order!.reference))
    await expect.poll(due, { timeout: 20_000 }).toBe(0)
    expect(await db.$count(paymentNotice, eq(paymentNotice.reference, order!.reference))).toBe(1)
    expect(await db.$count(invoice, eq(invoice.orderId, id))).toBe(1)
    await page.goto(`${application.url}/order`)
    await page
      .getByRole('link', { name: /^Order \d+/ })
      .first()
      .click()
    expect(await rows(page)).toContain('In all €51.99')
  })

  it('a school pays its own rate, and reads its name on the receipt and the invoice', async () => {
    const page = await newPageOf(browser, { scripts: false })
    await comeIn(page, application.url, 'clem@northschool.example', '/basket')
    await put(page, 'niddy-noddy', 2)
    await toTheLook(page, 'By post on the island', { scripts: false })
    expect(await rows(page)).toEqual([
      '2 × Niddy-noddy 7.5 % off €52.46',
      'Delivery By post on the island €5.00',
      'of which School rate 9 % €4.33',
      'In all €57.46',
    ])
    await pay(page)
    await page.getByRole('link', { name: /Invoice/ }).click()
    await page.getByRole('cell', { name: 'School rate 9 %', exact: true }).first().waitFor()
  })

  it('a guest becomes a customer: the page of past buyers opens, and shuts again when the money is given back', async () => {
    const page = await newPageOf(browser)
    await put(page, 'mitts-kit', 1)
    await put(page, 'lucet', 1)
    expect(await page.getByRole('link', { name: 'Basket (2)' }).count()).toBe(1)
    await toTheLook(page, 'By post on the island')
    expect(await rows(page)).toContain('1 × Beginner mitts kit €24.00')
    // A code given on the way takes off what it takes off, and leads back to where it was asked for.
    await page.getByRole('link', { name: 'I have a code' }).click()
    await page.getByLabel('The code').fill('fleece-post')
    await page.getByRole('button', { name: 'Use it' }).click()
    await page.waitForURL('**/till/look')
    expect(await rows(page)).toContain('1 × Beginner mitts kit 7.5 % off with code FLEECE-POST €22.20')
    const id = await pay(page)
    expect((await page.goto(`${application.url}/shop/kit-bench`))!.status()).toBe(401)
    await page.goto(`${application.url}/order/${id}`)
    await page.getByRole('link', { name: 'Make an account' }).click()
    await signUp(page, 'Una Best', address['Mail address'])
    const { db } = application.database
    expect((await page.goto(`${application.url}/shop/kit-bench`))!.status()).toBe(200)

    // Staff give the kit's money back, in the console; the rest stays bought.
    const keeper = await newPageOf(browser)
    await comeIn(keeper, application.url, 'ines', '/loft/shop?tab=orders')
    await keeper.getByLabel('Find orders by number, name or address').fill('una@elsewhere')
    await keeper
      .getByRole('button', { name: /Look at order/ })
      .first()
      .click()
    await keeper.evaluate(() => (window.print = () => {}))
    await keeper.getByRole('button', { name: 'Print a slip' }).click()
    const slip = keeper.locator('.printed')
    await slip.getByText('Beginner mitts kit').waitFor({ state: 'attached' })
    expect(await slip.textContent()).not.toContain('22.20')
    await keeper.evaluate(() => window.dispatchEvent(new Event('afterprint')))
    await slip.waitFor({ state: 'detached' })
    await keeper.getByRole('button', { name: 'Give money back…' }).click()
    await keeper.getByLabel('Pieces of Lucet that go back').fill('0')
    await keeper.getByLabel(/the delivery/).uncheck()
    await keeper.getByRole('button', { name: 'Give back 22.20' }).click()
    await keeper.getByText('22.20 go back').waitFor()
    await keeper.getByText(/Credit note C/).waitFor({ timeout: 20_000 })
    // Papers go out by the number, whose address opens nothing to others.
    const paper = await keeper
      .getByRole('link', { name: /as UBL/ })
      .first()
      .getAttribute('href')
    expect(paper).not.toContain('order-')
    expect((await keeper.request.get(application.url + paper)).headers()['content-type']).toContain('xml')
    expect((await page.request.get(application.url + paper)).status()).toBe(403)
    expect((await page.goto(`${application.url}/shop/kit-bench`))!.status()).toBe(403)
    const [order] = await db.select().from(shopOrder).where(eq(shopOrder.id, id))
    expect([order!.state, order!.refunded]).toEqual(['paid', 2220])
  })

  it('paid twice is told to staff, who give the second payment back and leave the first', async () => {
    const { db } = application.database
    const page = await newPageOf(browser)
    await put(page, 'alum', 2)
    await toTheLook(page, 'By post on the island')
    const id = await pay(page, 'Pay twice')
    const [order] = await db.select().from(shopOrder).where(eq(shopOrder.id, id))
    const keeper = await newPageOf(browser)
    await comeIn(keeper, application.url, 'ines@wexlow.example', '/loft/shop?tab=orders')
    const matters = keeper.getByRole('region', { name: 'Payments to see to' })
    await expect.poll(() => db.$count(paymentNotice, eq(paymentNotice.became, 'besides')), { timeout: 20_000 }).toBe(1)
    await keeper.reload()
    await matters.getByText('came in that nobody had asked for').waitFor()
    await matters.getByRole('button', { name: /^Give .* back$/ }).click()
    await matters.getByText('It goes back; what was bought stays as it is.').waitFor()
    const out = async () => (await db.select().from(moneyBack).where(eq(moneyBack.reference, order!.reference)))[0]
    await expect.poll(async () => (await out())?.doneAt != null, { timeout: 20_000 }).toBe(true)
    expect(await out()).toMatchObject({ of: 'besides', gross: order!.gross })
    const [after] = await db.select().from(shopOrder).where(eq(shopOrder.id, id))
    expect(after).toMatchObject({ state: 'paid', refunded: 0 })
  })

  it('a level is bought as a gift: whoever gets the link signs up with it and holds it', async () => {
    const page = await newPageOf(browser)
    await put(page, 'guild-year', 1)
    // A guest holds no level: without somebody to give it to, it is not sold to them.
    await sayWhere(page, { Name: 'Pim Larch', 'Mail address': 'pim@elsewhere.example' })
    await page.getByText('Or make it a gift.').waitFor()
    await page.getByLabel(/A gift/).fill('olla@elsewhere.example')
    await page.getByRole('button', { name: 'Look it over' }).click()
    await page.waitForURL('**/till/look')
    const id = await pay(page)
    const { db } = application.database
    const giftAt = await linkIn('olla@elsewhere.example', /http\S+\/gift\/\S+/)
    const taker = await newPageOf(browser)
    await taker.goto(giftAt)
    await taker.getByText('Pim Larch bought something for you').waitFor()
    await taker.getByText('A year in the Guild').waitFor()
    await taker.getByRole('link', { name: 'Make an account' }).click()
    expect(await taker.getByLabel('E-mail address').inputValue()).toBe('olla@elsewhere.example')
    await signUp(taker, 'Olla Fern', 'olla@elsewhere.example')
    expect((await taker.goto(`${application.url}/techniques/gansey/welts`))!.status()).toBe(403)
    await taker.goto(giftAt)
    await taker.getByRole('button', { name: 'Take it' }).click()
    await taker.waitForURL('**/account')
    expect((await taker.goto(`${application.url}/techniques/gansey/welts`))!.status()).toBe(200)
    await taker.goto(giftAt)
    await taker.getByText('This gift was taken already').waitFor()
    // Money given back takes it from whoever took it.
    const ines = await signedIn(application.url, 'ines')
    const [order] = await db.select().from(shopOrder).where(eq(shopOrder.id, id))
    // There is nothing to pack of it, and none can say that there is.
    const pack = await ines(`/api/loft/orders/${order!.number}`, { method: 'PUT', json: { state: 'paid' } })
    expect([pack.status, ((await pack.json()) as { reason: string }).reason]).toEqual([400, 'nothing-to-change'])
    const back = { request: crypto.randomUUID(), why: 'Changed their mind' }
    expect((await ines(`/api/loft/orders/${order!.number}/refund`, { method: 'POST', json: back })).status).toBe(200)
    await expect
      .poll(async () => (await taker.goto(`${application.url}/techniques/gansey/welts`))!.status(), { timeout: 20_000 })
      .toBe(403)
  })

  it('two browsers race for the last skein: one has it, the other is told and loses nothing', async () => {
    const { db } = application.database
    await db.update(stock).set({ pieces: 1 }).where(eq(stock.product, 'kelp-boucle'))
    const pages = await Promise.all([newPageOf(browser), newPageOf(browser)])
    for (const page of pages) await put(page, 'kelp-boucle', 1)
    await toTheLook(pages[0]!, 'By post on the island')
    await sayWhere(pages[1]!)
    await pages[1]!.getByText(/Of Kelp Bouclé, 50 g only 0 are left/).waitFor()
    // What was typed is there still.
    expect(await pages[1]!.getByLabel('Street').inputValue()).toBe(address.Street)
    await pay(pages[0]!)
    expect((await db.select().from(stock).where(eq(stock.product, 'kelp-boucle')))[0]!.pieces).toBe(0)
    await pages[1]!.goto(`${application.url}/basket`)
    await pages[1]!.getByText('Only 0 of this are left.').waitFor()
    expect(await pages[1]!.getByRole('button', { name: 'Go to the till' }).isDisabled()).toBe(true)
  })

  it('says what changed since something was put in, and what is not sold any more', async () => {
    const page = await newPageOf(browser)
    await put(page, 'weaving-comb', 1)
    await put(page, 'hand-cards', 1)
    await put(page, 'stitch-rings', 1)
    const ines = await signedIn(application.url, 'ines')
    await ines('/api/loft/things/product/weaving-comb', { method: 'PUT', json: { price: 1400 } })
    expect((await ines('/api/loft/things/product/stitch-rings', { method: 'DELETE' })).status).toBeLessThan(300)
    const body = { id: 'cards-shut', on: { product: 'hand-cards' }, take: { signedIn: true } }
    await ines('/api/loft/entries/gate/cards-shut', { method: 'PUT', json: { body, expects: null } })
    expect(
      (await ines('/api/loft/publish', { method: 'POST', json: { note: 'Dearer', expects: 1, chosen: null } })).status,
    ).toBeLessThan(300)
    await page.goto(`${application.url}/basket`)
    await page.getByText('It was €12.50 each when you put it in.').waitFor()
    await page.getByText('This is not sold to you any more').waitFor()
    await page.getByText('Something that was in your basket is here no more.').waitFor()
    expect(await rows(page)).toContain('In all €14.00')
    await page.getByRole('button', { name: 'Take out: Hand cards' }).click()
    await page.waitForURL('**/basket')
    expect(await page.getByRole('button', { name: 'Go to the till' }).isDisabled()).toBe(false)
    // With a script a changed count is taken at once.
    await page.getByLabel('How many: Weaving comb').fill('3')
    await page.getByLabel('How many: Weaving comb').press('Tab')
    await page.getByText('€14.00 each').waitFor()
    expect(await page.getByRole('link', { name: 'Basket (3)' }).count()).toBe(1)
    // Seen once, it is no news.
    expect(await page.getByText('It was €12.50').count()).toBe(0)
  })
})

describe('what a service outside says', () => {
  it('is asked of wherever it is sold: page, basket, till and order agree', async () => {
    const { db } = application.database
    const ines = await signedIn(application.url, 'ines')
    const offer = {
      id: 'own-wheels',
      name: 'Wheels of one’s own',
      for: { fact: { name: 'wheels', atLeast: 1 } },
      on: { products: ['niddy-noddy'] },
      bands: [{ off: { percent: 50 } }],
    }
    const kept = await ines('/api/loft/entries/offer/own-wheels', {
      method: 'PUT',
      json: { body: offer, expects: null },
    })
    expect(await kept.text().then(text => (kept.ok ? '' : text))).toBe('')
    const [state] = await db.select({ live: siteState.liveEdition }).from(siteState)
    const done = await ines('/api/loft/publish', { method: 'POST', json: { note: 'wheels', expects: state!.live } })
    expect(done.status).toBe(200)
    const page = await newPageOf(browser)
    await comeIn(page, application.url, 'mako@wexlow.example', '/shop/goods/niddy-noddy')
    await page.getByText('€16.00').first().waitFor()
    await put(page, 'niddy-noddy', 1)
    expect((await rows(page)).at(-1)).toContain('€16.00')
    await toTheLook(page, 'By post on the island')
    expect((await rows(page)).at(-1)).toContain('€22.15')
    const id = await pay(page)
    const [order] = await db.select().from(shopOrder).where(eq(shopOrder.id, id))
    expect(order!.gross).toBe(1600 + 615)
  })
})

describe('over HTTP', () => {
  const post = (path: string, form: Record<string, string>, cookie = '') =>
    fetch(application.url + path, {
      method: 'POST',
      redirect: 'manual',
      headers: { 'content-type': 'application/x-www-form-urlencoded', cookie },
      body: new URLSearchParams(form),
    })
  const cookiesOf = (answer: Response) =>
    answer.headers
      .getSetCookie()
      .map(one => one.split(';')[0])
      .join('; ')

  it('a basket takes whole numbers of what is sold, and no cookie that was made up', async () => {
    for (const quantity of ['0', '-3', '1.5', '99999999999', 'x', '']) {
      const answer = await post('/basket', { add: 'lucet', quantity })
      expect([answer.status, answer.headers.get('location')], quantity).toEqual([400, null])
    }
    expect((await post('/basket', { add: 'nothing', quantity: '1' })).status).toBe(404)
    // Of what nobody may find, as of what is not there.
    expect((await post('/basket', { add: 'gullhaven-dk', quantity: '1' })).status).toBe(404)
    expect((await post('/basket', { add: 'fell-dk', quantity: '1' })).status).toBe(400)
    const kept = cookiesOf(await post('/basket', { add: 'lucet', quantity: '2' }))
    const [name, value] = kept.split('=') as [string, string]
    const forged = `${Buffer.from(JSON.stringify([['lucet', 2, 1]])).toString('base64url')}.${value.split('.')[1]}`
    const shown = async (cookie: string) =>
      (await (await fetch(`${application.url}/basket`, { headers: { cookie } })).text()).includes('Lucet')
    expect([await shown(kept), await shown(`${name}=${forged}`)]).toEqual([true, false])
  })

  it('what stands on a page for one guest’s basket is not sent to another who asks in the same moment', async () => {
    const kit = cookiesOf(await post('/basket', { add: 'mitts-kit', quantity: '3' }))
    const lucets = cookiesOf(await post('/basket', { add: 'lucet', quantity: '2' }))
    const asked = async (cookie: string) => {
      const text = await (await fetch(`${application.url}/shop`, { headers: { cookie } })).text()
      return [/Basket(?: \(\d+\))?/.exec(text)![0], text.includes('A seat is kept for you')]
    }
    const shown = { [kit]: ['Basket (3)', true], [lucets]: ['Basket (2)', false], '': ['Basket', false] }
    const cookies = Array.from({ length: 30 }, (_, i) => [kit, lucets, ''][i % 3]!)
    const answers = await Promise.all(cookies.map(asked))
    cookies.forEach((cookie, i) => expect(answers[i]).toEqual(shown[cookie]))
  })

  it('a notice that is forged, of another sum or of nobody’s order changes nothing', async () => {
    const { db } = application.database
    let cookie = cookiesOf(await post('/basket', { add: 'lucet', quantity: '1' }))
    const said = { name: 'N', email: 'n@elsewhere.example', lines: 'L', town: 'T', postcode: '', country: 'IE' }
    const where = await post('/till', said, cookie)
    expect(where.headers.get('location')).toBe('/till/look')
    cookie += `; ${cookiesOf(where)}`
    await post('/till/look', { way: 'post' }, cookie)
    const wrongSum = await post('/till/look', { agreed: '1' }, cookie)
    expect(wrongSum.status).toBe(409)
    const [{ gross }] = [{ gross: 720 + 615 }]
    const twice = await Promise.all([1, 2, 3].map(() => post('/till/look', { agreed: String(gross) }, cookie)))
    const places = new Set(twice.map(one => one.headers.get('location')))
    expect(places.size).toBe(1)
    const reference = [...places][0]!.split('/').at(-1)!
    const send = (notice: object, given?: string) => {
      const body = JSON.stringify(notice)
      return fetch(`${application.url}/api/payments/notice`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'x-payment-signature': given ?? signature('payment', body) },
        body,
      })
    }
    const paid = { id: 'o-1', reference, kind: 'paid', amount: gross }
    const state = async () => (await db.select().from(shopOrder).where(eq(shopOrder.reference, reference)))[0]!
    expect((await send(paid, 'made up')).status).toBe(403)
    expect((await send({ ...paid, amount: -1 })).status).toBe(400)
    expect((await send({ ...paid, amount: gross - 1 })).status).toBe(204)
    expect(await state()).toMatchObject({ state: 'placed', trouble: expect.stringContaining('instead of') })
    expect((await send({ ...paid, id: 'o-2' })).status).toBe(204)
    expect((await send({ ...paid, id: 'o-2' })).status).toBe(204)
    expect((await state()).state).toBe('paid')
    expect((await send({ ...paid, id: 'o-3', reference: 'pay-nothing' })).status).toBe(404)
    // Paid is paid: the till sends on, and takes no second answer.
    expect((await post(`/pay/${reference}`, { answer: 'decline' })).headers.get('location')).toMatch(/^\/order\//)
    expect((await state()).state).toBe('paid')
  })

  it('papers and orders are found by nobody who has not their address, and staff see what their rights cover', async () => {
    const [{ id, number }] = (await application.database.db.execute<{ id: string; number: number }>(
      sql`select id, number from shop_order where person_id = 'p-stella' order by number limit 1`,
    )) as unknown as [{ id: string; number: number }]
    const nearly = id.slice(0, -1) + (id.endsWith('x') ? 'y' : 'x')
    expect((await fetch(`${application.url}/order/${nearly}`)).status).toBe(404)
    expect((await fetch(`${application.url}/paper/${id}/2026-99999.pdf`)).status).toBe(404)
    const [oona, dace, tomas] = await Promise.all(['oona', 'dace', 'tomas'].map(who => signedIn(application.url, who)))
    const seen = async (who: typeof oona) =>
      (await (await who!(`/api/loft/orders/${number}`)).json()) as Record<string, unknown>
    // Front desk sees no cost; the shop hand gives no money back.
    expect([(await seen(dace)).costs, (await seen(dace)).buyer !== undefined]).toEqual([undefined, true])
    const refund = { request: crypto.randomUUID() }
    expect((await oona!(`/api/loft/orders/${number}/refund`, { method: 'POST', json: refund })).status).toBe(403)
    expect((await tomas!('/api/loft/orders')).status).toBe(403)
    expect((await tomas!(`/api/loft/orders/export`)).status).toBe(403)
    const file = await (await dace!('/api/loft/orders/export?state=sent')).text()
    expect(file.split('\n')[0]).toBe(
      'number,placed,state,name,email,country,currency,net,tax,gross,refunded,delivery,goods',
    )
  })
})
