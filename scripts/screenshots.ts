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

await page.goto(`${address}/`)
await page.screenshot({ path: file('site') })
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

await page.goto(`${address}/loft/site?path=/&as=guest&beside=guild`)
await settled()
await page.screenshot({ path: file('site-beside') })
await page.goto(`${address}/loft/site?thing=menu:main`)
await page.getByRole('row', { name: 'Gansey course' }).click()
await settled()
await page.screenshot({ path: file('site-menus') })
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
await page.goto(`${address}/loft/people/p-mako`)
await settled()
await page
  .getByRole('region', { name: 'What they reach' })
  .getByRole('button', { name: /The gansey course/ })
  .first()
  .click()
await settled()
await page.screenshot({ path: file('person') })
for (const [name, path] of [
  ['staff', '/loft/who?tab=staff'],
  ['door', '/loft/door?tab=landings'],
  ['activity', '/loft/activity'],
] as const) {
  await page.goto(address + path)
  await settled()
  if (name === 'staff') await page.locator('[id="staff-products-2"]').click()
  await page.screenshot({ path: file(name) })
}
// Looked at as anybody; what two of them differ in; the console as a staff role has it.
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
await page.goto(`${address}/loft/who?tab=staff&role=shop-hand&kind=products`)
await page.getByRole('button', { name: 'see its loft' }).click()
const seen = page.getByRole('region', { name: 'Seen as a staff role' })
await seen.waitFor()
await page.getByRole('link', { name: 'Shop', exact: true }).click()
await seen.getByRole('button', { name: /withheld/ }).click()
await settled()
await page.screenshot({ path: file('staff-loft') })
await seen.getByRole('button', { name: 'Back to yourself' }).click()
await page.waitForURL('**/loft/who**')
// A group's page, with something about to be given.
await page.goto(`${address}/loft/groups/level/maker`)
await page.getByLabel('What to give this group').fill('gansey')
await page.getByRole('button', { name: 'The gansey course page' }).click()
await settled()
await page.screenshot({ path: file('group') })
await page.goto(`${address}/loft/site?path=/techniques/colour&as=maker`)
const ground = page.getByRole('group', { name: /^Hold the ground/ }).first()
await ground.click()
await ground.click()
await page.locator('.cm-content').waitFor()
await settled()
await page.screenshot({ path: file('site-writing') })
const member = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
await comeIn(member, 'mako')
await member.waitForURL('**/account')
await member.screenshot({ path: file('member') })
await member.goto(`${address}/search?q=heel`)
await member.screenshot({ path: file('search') })
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
