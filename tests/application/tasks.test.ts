/** Everything the console says it knows how to begin, tried in the running console as somebody who looks for it would. */
import type { Browser, Locator, Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { tasks } from '../../app/loft/frame/tasks/tasks'
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

const roles = [
  'button',
  'textbox',
  'searchbox',
  'combobox',
  'checkbox',
  'spinbutton',
  'grid',
  'link',
  'radio',
  'region',
  'list',
] as const
const escaped = (text: string) => text.replaceAll(/[.*+?^${}()|[\]\\]/g, '\\$&')

/** What of this name is marked on the screen, by whatever role it has. */
async function marked(page: Page, name: string): Promise<string | null> {
  const mark = await page
    .locator('[data-marked]')
    .boundingBox({ timeout: 500 })
    .catch(() => null)
  if (!mark) return null
  const isAt = async (one: Locator) => {
    const box = await one.boundingBox()
    return box && Math.abs(box.x - mark.x - 4) < 2 && Math.abs(box.y - mark.y - 4) < 2
  }
  for (const role of roles)
    for (const one of await page.getByRole(role, { name: new RegExp(`^${escaped(name)}`) }).all())
      if ((await one.isVisible()) && (await isAt(one))) return role
  return null
}

describe('what people want to do', () => {
  it('begins where it is done, with the first step done and the next one marked, and changes nothing by itself', async () => {
    const page = await newPageOf(browser)
    await comeIn(page, application.url, 'ines')
    const draft = async () =>
      JSON.stringify((await (await page.request.get(`${application.url}/api/loft/start`)).json()).draft)
    // Something waits to be published.
    const body = { summary: 'Two boats a day.' }
    const kept = await page.request.put(`${application.url}/api/loft/things/page/ferry`, { data: body })
    expect(kept.status()).toBe(200)
    await page.reload()
    const before = await draft()
    const failed: string[] = []
    for (const { key, says, next, then } of tasks) {
      await page.getByRole('button', { name: 'Find anything' }).click()
      await page.getByRole('combobox', { name: 'Find anything' }).fill(says)
      await page.getByRole('option').filter({ hasText: says }).first().click()
      // It may still move to where it stands.
      const found = await expect
        .poll(() => marked(page, next), { timeout: 8000 })
        .not.toBeNull()
        .then(
          () => true,
          () => false,
        )
      if (!found) failed.push(`${key}: ${next}`)
      const strip = page.getByText(then).last()
      if (!(await strip.isVisible())) failed.push(`${key}: left by itself`)
      await page.keyboard.press('Escape')
      await strip.waitFor({ state: 'hidden', timeout: 2000 })
      if (await page.getByRole('dialog').isVisible()) await page.keyboard.press('Escape')
    }
    expect(failed).toEqual([])
    expect(await draft()).toBe(before)
  }, 300_000)
})
