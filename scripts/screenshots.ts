/** Takes the pictures; arguments: the address of a served demo, and the one-time link of a new site. */
import { fileURLToPath } from 'node:url'
import type { Page } from 'playwright-core'
import { launchBrowser } from '../tests/support/browser'

const [address, keeperLink] = process.argv.slice(2) as [string, string]
const file = (name: string) => fileURLToPath(new URL(`../docs/screenshots/${name}.png`, import.meta.url))
const browser = await launchBrowser()
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
const why = page.getByRole('region', { name: 'Why' })
const settled = async () => {
  await page.waitForLoadState('networkidle')
  await page.waitForTimeout(700)
}

async function comeIn(into: Page, who: string) {
  await into.goto(`${address}/sign-in`)
  await into.getByLabel('E-mail address').fill(`${who}@wexlow.example`)
  await into.getByLabel('Password').fill('wexlow-demo')
  await into.getByRole('button', { name: 'Sign in' }).click()
}

await comeIn(page, 'ines')
await page.waitForURL('**/loft')

// A change in the draft, so that the board has something to ring: classrooms come to the trade desk.
await page.goto(`${address}/loft?thing=page:trade&tier=classroom`)
await why.getByRole('button', { name: 'Edit the gate Trade desk' }).click()
await why.getByRole('button', { name: '+ or' }).first().click()
await page.keyboard.type('classrooms')
await page.keyboard.press('Enter')
await settled()
await page.goto(`${address}/loft?thing=page:mending&tier=test-knitter`)
await settled()
await page.screenshot({ path: file('reach') })

// What each tier pays, a price said in one line, goods, and a product as two tiers get it.
await page.goto(`${address}/loft/shop`)
await page.locator('#price-fell-dk-5').click()
await settled()
await page.screenshot({ path: file('prices') })
const line = page.getByLabel('Say a price', { exact: true }).first()
await line.click()
await line.pressSequentially('makers 12 % off tools, 15 % from 5')
await page.getByRole('region', { name: 'The price as it was understood' }).waitFor()
await settled()
await page.screenshot({ path: file('price-said') })
await page.goto(`${address}/loft/shop?tab=goods`)
await page.locator('#goods-fell-dk-moss-stock').click()
await page.getByRole('button', { name: 'Put some aside…' }).click()
await page.getByLabel('How many to put aside').fill('6')
await page.getByLabel('Note', { exact: true }).fill('spring order')
await page.getByRole('button', { name: 'Put aside', exact: true }).click()
await page.locator('#goods-fell-dk-moss-stock').getByText('6 aside').waitFor()
await settled()
await page.screenshot({ path: file('goods') })
// What two tiers are taxed; then somebody of the trade buys, and the order is looked after.
await page.goto(`${address}/loft/shop?tab=taxes`)
await page.getByRole('table', { name: 'What Classroom pays' }).getByText('School rate').waitFor()
await page.getByRole('button', { name: /^Why/ }).last().click()
await settled()
await page.screenshot({ path: file('taxes') })
const buyer = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
await buyer.goto(`${address}/sign-in`)
await buyer.getByLabel('E-mail address').fill('stella@gullhaven.example')
await buyer.getByLabel('Password').fill('wexlow-demo')
await buyer.getByRole('button', { name: 'Sign in' }).click()
await buyer.waitForURL('**/trade')
for (const [product, count] of [
  ['fell-dk/madder', '12'],
  ['drop-spindle', '4'],
] as const) {
  await buyer.goto(`${address}/shop/goods/${product}`)
  await buyer.getByLabel('How many').fill(count)
  await buyer.getByRole('button', { name: 'Put in the basket' }).click()
  await buyer.waitForURL('**/basket')
}
await buyer.screenshot({ path: file('basket') })
await buyer.getByRole('button', { name: 'Go to the till' }).click()
for (const [label, value] of [
  ['Street', 'Harbour Street 9'],
  ['Postcode', 'GH2 11'],
  ['Town', 'Gullhaven'],
] as const)
  await buyer.getByLabel(label).fill(value)
await buyer.getByLabel('Country').selectOption('IE')
await buyer.getByRole('button', { name: 'Look it over' }).click()
await buyer.waitForURL('**/till/look')
await buyer.getByLabel('By carrier, in sacks').check()
await buyer.getByRole('button', { name: 'Take this way' }).click()
await buyer.waitForLoadState('networkidle')
await buyer.screenshot({ path: file('till') })
await buyer.getByRole('button', { name: /Order and pay/ }).click()
await buyer.getByRole('button', { name: 'Approve', exact: true }).click()
await buyer.waitForURL('**/order/*')
await buyer.getByRole('link', { name: /Invoice/ }).click()
await buyer.waitForLoadState('networkidle')
await buyer.screenshot({ path: file('invoice') })
await page.goto(`${address}/loft/shop?tab=orders`)
await page.getByRole('button', { name: /^Why/ }).first().click()
await settled()
await page.screenshot({ path: file('order') })
await page.goto(`${address}/loft/editions`)
await settled()
await page.screenshot({ path: file('editions') })
await page.goto(`${address}/loft/people`)
await page.getByRole('button', { name: '+ who are…' }).click()
await page.keyboard.type('friend or above')
await page.keyboard.press('Enter')
await page.getByLabel('Tick Fenn Arlo').check()
await page.getByLabel('Tick Tilde Rask').check()
await page.getByLabel('Which role').selectOption('classroom')
await settled()
await page.screenshot({ path: file('people') })
// The ways in and out, and the form as a stranger sees it.
await page.goto(`${address}/loft/door?at=filled`)
await page.getByRole('button', { name: 'Spindles owned' }).waitFor()
await settled()
await page.screenshot({ path: file('door') })
await page.goto(`${address}/loft/who?tab=staff`)
await settled()
await page.locator('[id="staff-products-2"]').click()
await page.screenshot({ path: file('staff') })
// Looked at as anybody; what two of them differ in.
await page.goto(
  `${address}/loft/site?path=/techniques/colour&as=person:p-mako,role:islander,country:ES,device:phone,weekday:fri,time:09:00`,
)
await settled()
await page.screenshot({ path: file('look-as') })
await page.goto(`${address}/loft/compare?one=person:p-mako&two=guest,role:stockist`)
await settled()
await page.screenshot({ path: file('compare') })
await page.goto(`${address}/loft/site?thing=folder:patterns`)
await settled()
await page.screenshot({ path: file('files') })
// The loom, a level beside it, with something about to be given.
await page.goto(`${address}/loft/who?at=level:maker`)
await page.getByLabel('What to give this group').fill('gansey')
await page.getByRole('button', { name: 'The gansey course page' }).click()
await settled()
await page.screenshot({ path: file('who') })
await page.goto(`${address}/loft/site?path=/techniques/colour&as=maker`)
const ground = page.getByRole('group', { name: /^Hold the ground/ }).first()
await ground.click()
await ground.click()
await page.locator('.cm-content').waitFor()
await settled()
await page.screenshot({ path: file('site-writing') })
const own = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
await own.goto(keeperLink)
await own.getByLabel('Your name').fill('Ada Own')
await own.getByLabel('E-mail address').fill('ada@own.example')
await own.getByLabel(/Password/).fill('ten characters')
await own.getByRole('button', { name: 'Open the loft' }).click()
await own.waitForURL('**/loft')
await own.getByRole('region', { name: 'First steps' }).waitFor()
await own.waitForTimeout(700)
await own.screenshot({ path: file('first-steps') })
await browser.close()
