import type { Browser } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startApplication } from '../support/application'
import type { Application } from '../support/application'
import { launchBrowser, newPageOf } from '../support/browser'
import { comeIn } from '../support/come-in'

let application: Application
let browser: Browser
beforeAll(async () => {
  ;[application, browser] = await Promise.all([startApplication(), launchBrowser()])
})
afterAll(async () => {
  await browser.close()
  await application.stop()
})
const stella = 'stella@gullhaven.example'
const price = 'main .buying > p .price'

describe('goods and prices', () => {
  it('a stockist sees the step from one at once, and what ten and fifty cost', async () => {
    const page = await newPageOf(browser)
    await comeIn(page, application.url, stella, '/shop/goods/fell-dk/madder')
    expect(await page.locator(price).innerText()).toMatch(/^€3\.79\s+usually €5\.61\s+€5\.61\s+plus VAT/)
    expect(await page.locator('.steps li').allInnerTexts()).toEqual(['from 10 on €3.45 each', 'from 50 on €3.09 each'])
    await page.goto(`${application.url}/shop/yarn?sort=price`)
    const shown = await page.locator('.cards .price b').allInnerTexts()
    const amounts = shown.map(text => Number(text.replace(/[^\d]/g, '')))
    expect(amounts.length).toBeGreaterThan(5)
    expect(amounts).toEqual([...amounts].sort((a, b) => a - b))
    // Narrowed down by what colours differ in, and back, by links alone.
    await page.getByRole('link', { name: 'overdyed black' }).click()
    expect(await page.locator('.cards a').allInnerTexts()).toEqual(['Fell DK, 50 g'])
    await page.getByRole('link', { name: 'Show all again' }).click()
    await expect.poll(() => page.locator('.cards a').count()).toBeGreaterThan(5)
  })

  it('a guest is asked to sign in for a price, and told to whom a sack is sold', async () => {
    const page = await newPageOf(browser)
    await page.goto(`${application.url}/shop/goods/wheel-hire`)
    expect(await page.locator(price).count()).toBe(0)
    await page.getByText('Sign in to see what a month costs.').waitFor()
    await page.locator('.notice').getByRole('link', { name: 'Sign in' }).click()
    await page.waitForURL('**/sign-in?back=*')
    await page.goto(`${application.url}/shop/by-the-sack`)
    expect(await page.locator('.cards .price').count()).toBe(0)
    expect(await page.locator('.cards small').first().innerText()).toBe('price for some')
    await comeIn(page, application.url, stella, '/shop/by-the-sack')
    expect(await page.locator('.cards .price').count()).toBe(6)
  })

  it('a firm has a category of its own: for everybody else it is nowhere', async () => {
    const [guest, own] = await Promise.all([newPageOf(browser), newPageOf(browser)])
    expect((await guest.goto(`${application.url}/shop/for-gullhaven`))!.status()).toBe(404)
    expect((await guest.goto(`${application.url}/shop/goods/gullhaven-dk`))!.status()).toBe(404)
    await comeIn(own, application.url, stella, '/shop')
    await own.getByRole('link', { name: 'For Gullhaven Knits' }).click()
    expect(await own.locator('.cards a').allInnerTexts()).toEqual(['Gullhaven DK, 50 g', 'Gullhaven project bag'])
  })

  it('a price is said in one line, measured, published, and holds in a second browser', async () => {
    const [keeper, friend] = await Promise.all([newPageOf(browser), newPageOf(browser)])
    await comeIn(friend, application.url, 'mako', '/shop/goods/moor-fingering')
    expect(await friend.locator(price).innerText()).toContain('€12.54')

    await comeIn(keeper, application.url, 'ines', '/loft/shop')
    await keeper.locator('#price-moor-fingering-3').getByText('12.54').waitFor()
    await keeper.locator('#price-moor-fingering-3').click()
    await keeper.getByRole('grid', { name: 'What each tier pays' }).focus()
    // Typed on the board itself: the line takes it from the first letter.
    await keeper.keyboard.type('makers 20 % off yar')
    await keeper
      .getByRole('listbox', { name: 'Say a price' })
      .getByRole('option', { name: 'Yarn', exact: true })
      .click()
    const said = keeper.getByRole('region', { name: 'The price as it was understood' })
    await said.getByText('Maker or above: 20 % off on Yarn.').waitFor()
    await said.getByText(/prices of 2\d products move/).waitFor()
    await said.getByRole('button', { name: /Keep it in the draft/ }).click()
    await keeper.locator('#price-moor-fingering-3').getByText('10.56').waitFor()
    await expect.poll(() => keeper.getByRole('region', { name: 'The draft' }).textContent()).not.toContain('saving')

    await keeper.getByRole('button', { name: /Publish edition 2/ }).click()
    const dialog = keeper.getByRole('dialog')
    await dialog.getByText(/prices of 2\d products move: \d+ down, 0 up/).waitFor()
    await dialog.getByRole('button', { name: 'Publish edition 2' }).click()
    await dialog.waitFor({ state: 'detached' })
    await expect
      .poll(async () => {
        await friend.reload()
        return friend.locator(price).innerText()
      })
      .toContain('€10.56')
  })

  it('a code of one’s own is shown to whom it is for, lowers their price alone, and works no more once it is stopped', async () => {
    const [guda, guest, keeper] = await Promise.all([1, 2, 3].map(() => newPageOf(browser)))
    const garden = `${application.url}/shop/goods/dye-garden`
    await comeIn(guda!, application.url, 'guda', '/account')
    await guda!.getByRole('button', { name: 'Show me my code' }).click()
    const own = await guda!.locator('.codes .code-word').innerText()
    expect(own).toMatch(/^DYEDAY-/)
    await guda!.locator('.codes').getByRole('button', { name: 'Use it' }).click()
    await guda!.getByText('Kept for you until').waitFor()
    await guda!.goto(garden)
    expect(await guda!.locator(price).innerText()).toContain('€17.16')
    await guda!.getByText('with your code DYEDAY').first().waitFor()

    // Nobody else is told of it, and what is guessed is said to be none where it was typed.
    await guest!.goto(garden)
    expect(await guest!.locator(price).innerText()).toContain('€19.50')
    expect(await guest!.content()).not.toContain('DYEDAY')
    await guest!.getByRole('link', { name: 'I have a code' }).click()
    await guest!.getByLabel('The code').fill(own)
    await guest!.getByRole('button', { name: 'Use it' }).click()
    await guest!.getByText('Sign in first').waitFor()
    await guest!.getByLabel('The code').fill('🧶')
    await guest!.getByRole('button', { name: 'Use it' }).click()
    await guest!.getByText('There is no such code').waitFor()
    await guest!.getByLabel('The code').fill(' fleece-POST ')
    await guest!.getByRole('button', { name: 'Use it' }).click()
    await guest!.waitForURL('**/shop/goods/dye-garden')
    await guest!.goto(`${application.url}/shop/goods/fell-dk`)
    await guest!.getByText('with your code FLEECE-POST').first().waitFor()

    await comeIn(keeper!, application.url, 'ines', '/loft/shop?tab=codes&offer=dye-day-thanks')
    await keeper!.getByLabel('Find a code').fill(own)
    await keeper!.getByRole('row', { name: new RegExp(`^${own} given, not bought with yet`) }).waitFor()
    await expect.poll(() => keeper!.getByRole('row').count()).toBe(2)
    await keeper!.getByRole('button', { name: `Stop ${own}` }).click()
    await keeper!.getByText('1 code stopped').waitFor()
    await keeper!.getByLabel('How many codes').fill('3')
    await keeper!.getByRole('button', { name: 'Make codes' }).click()
    await keeper!.getByText('3 codes made.').waitFor()
    await guda!.goto(garden)
    expect(await guda!.locator(price).innerText()).toContain('€17.94')
  })

  it('a price is written where it shows, and goods are changed together in their grid', async () => {
    const keeper = await newPageOf(browser)
    await comeIn(keeper, application.url, 'ines', '/loft/site?path=/shop/goods/lucet')
    await keeper.getByRole('button', { name: 'the price of Lucet' }).click()
    await keeper.keyboard.type('8.00')
    await keeper.keyboard.press('Enter')
    await keeper.getByRole('button', { name: '8.00, the price of Lucet' }).waitFor()
    await keeper.goto(`${application.url}/loft/shop?tab=goods`)
    await keeper.getByLabel('Filter goods by name').fill('lucet')
    await keeper.locator('#goods-lucet-price').getByText('8.00').waitFor()
    await keeper.getByLabel('Filter goods by name').fill('kit')
    await keeper.getByLabel('Tick all that are shown').check()
    await keeper.getByLabel('What to do').selectOption('put on sale')
    await keeper.getByLabel('From the price').fill('-20 %')
    await keeper.getByText(/products would change/).waitFor()
    await keeper.getByRole('button', { name: 'Keep it in the draft' }).click()
    await keeper.getByText(/products changed in the draft/).waitFor()
    await keeper.locator('#goods-gansey-kit-sale').getByText('71.20').waitFor()
    // What is put aside is free no longer, at once.
    await keeper.locator('#goods-gansey-kit-title').click()
    await keeper.getByRole('button', { name: 'Put some aside…' }).click()
    await keeper.getByLabel('How many to put aside').fill('2')
    await keeper.getByRole('button', { name: 'Put aside', exact: true }).click()
    await keeper
      .locator('#goods-gansey-kit-stock')
      .getByText(/2 aside/)
      .waitFor()
  })

  it('a firm has its own category in two clicks', async () => {
    const keeper = await newPageOf(browser)
    await comeIn(keeper, application.url, 'ines', '/loft/groups/firm/gullhaven')
    const own = keeper.getByRole('region', { name: 'Goods for Gullhaven Knits alone' })
    await own.getByRole('button', { name: '+ category for them alone' }).click()
    await own.getByRole('button', { name: 'Make it' }).click()
    await own.getByText('is in the draft, at /shop/for-gullhaven-knits').waitFor()
    await keeper.goto(`${application.url}/loft/site?path=/shop/for-gullhaven-knits`)
    await keeper.getByText('firm Gullhaven Knits').first().waitFor()
  })
})
