import { launchBrowser } from '/work/main/tests/support/browser'
const [, , out, path, ...acts] = process.argv
const browser = await launchBrowser()
const state = '/tmp/dev-state.json'
import { existsSync } from 'node:fs'
const base = 'http://127.0.0.1:4790'
const [w, h] = (process.env.SIZE ?? '1280x800').split('x').map(Number)
const context = await browser.newContext({
  viewport: { width: w!, height: h! },
  ...(existsSync(state) ? { storageState: state } : {}),
})
const page = await context.newPage()
page.on('console', m => {
  if (m.type() === 'error') console.log('CONSOLE', m.text().slice(0, 300))
})
page.on('pageerror', e => console.log('PAGEERROR', String(e).slice(0, 400)))
if (!existsSync(state)) {
  await page.goto(base + '/sign-in')
  await page.fill('input[name=email]', 'ines@wexlow.example')
  await page.fill('input[name=password]', 'wexlow-demo')
  await page.click('form button:has-text("Sign in")')
  await page.waitForLoadState()
  await context.storageState({ path: state })
}
await page.goto(base + path)
await page.waitForTimeout(Number(process.env.WAIT ?? 3500))
for (const act of acts) {
  await new Function('page', `return (async () => { ${act} })()`)(page)
  await page.waitForTimeout(700)
}
await page.screenshot({ path: out })
await browser.close()
