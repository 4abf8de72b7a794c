import axe from 'axe-core'
import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startApplication } from '../support/application'
import type { Application } from '../support/application'
import { launchBrowser, newPageOf, stillnessOf } from '../support/browser'
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
const newPage = () => newPageOf(browser)

/** What axe finds serious. It looks in the one window: the pages have no frames of other origins. */
async function serious(page: Page): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe.source)
  return page.evaluate(async () => {
    const { axe: own } = window as unknown as { axe: typeof axe }
    const { violations } = await own.run({ resultTypes: ['violations'] })
    // Of WCAG 2.2, which axe asks only where it is told to. A page that is shown smaller than it is has smaller targets.
    const more = await own.run(
      { exclude: [['[data-sheet]']] },
      { resultTypes: ['violations'], runOnly: ['target-size', 'label-content-name-mismatch'] },
    )
    return [...violations, ...more.violations]
      .filter(one => one.impact === 'serious' || one.impact === 'critical')
      .map(one => [one.id, ...one.nodes.map(node => node.html).slice(0, 3)].join(' '))
  })
}

/** To each place by its link, where there is one in sight, as people go; looked at once it is still. */
async function visitAll(
  page: Page,
  places: string[],
  look: (window: Page, place: string) => Promise<void>,
): Promise<void> {
  const still = stillnessOf(page)
  for (const place of places) {
    const link = page.locator(`a[href="${place}"]`).first()
    if (await link.isVisible()) await link.click()
    else await page.goto(application.url + place)
    await page.waitForURL(application.url + place)
    await still()
    await look(page, place)
  }
}

/** While one window loads, the other is looked at. */
async function inTwoWindows(page: Page, halves: [string[], string[]], look: Parameters<typeof visitAll>[2]) {
  const other = await page.context().newPage()
  await Promise.all([visitAll(page, halves[0], look), visitAll(other, halves[1], look)])
}

describe('everybody', () => {
  it('meets nothing serious for axe, in the loft and on the site', async () => {
    const keeper = await newPage()
    await comeIn(keeper, application.url, 'ines')
    await keeper.locator('[id="cell-page_gansey-3"]').click()
    await keeper.keyboard.press('e')
    await keeper.getByRole('region', { name: 'Why' }).getByRole('button', { name: 'done' }).waitFor()
    expect(await serious(keeper)).toEqual([])
    const loft = [
      '/loft/site?path=/techniques/mending&as=guest&beside=guild',
      '/loft/people',
      '/loft/people/p-guda',
      '/loft/people?tab=queues',
      '/loft/people?tab=firms',
      '/loft/who',
      '/loft/who?tab=staff',
      '/loft/door?at=back',
      '/loft/door?at=confirmed',
      '/loft/door',
      '/loft/door?tab=mail',
      '/loft/door?tab=site',
      '/loft/door?tab=look',
      '/loft/door?tab=seller',
      '/loft/door?tab=words',
      '/loft/who?tab=facts',
      '/loft/who',
      '/loft/who?at=level:guild*role:test-knitter',
      '/loft/who?at=audience:gansey-circle',
      '/loft?row=everything',
      '/loft/compare?one=guild&two=guest,country:ES',
      '/loft/site?path=/trade&as=guest,role:stockist,device:phone',
      '/loft/who?at=role:stockist',
      '/loft/who?at=guest',
      '/loft/groups/firm/gullhaven',
      '/loft/groups/role/front-desk',
      '/loft/site',
      '/loft/shop',
      '/loft/shop?tab=goods',
      '/loft/shop?tab=codes&offer=dye-day-thanks',
      '/loft/shop?tab=list',
      '/loft/shop?tab=taxes',
      '/loft/shop?tab=delivery',
      '/loft/site?thing=menu:main',
      '/loft/site?path=/shop/goods/fell-dk',
      '/loft/editions',
      '/loft/activity',
      '/loft/activity?tab=changes',
    ]
    const site = [
      '/',
      '/techniques',
      '/techniques/gansey',
      '/account',
      '/account/profile',
      '/account/codes?back=/shop',
      '/shop/yarn',
      '/shop/goods/fell-dk',
      '/account/buy?level=guild',
      '/apply/role/stockist',
      '/sign-up',
      '/sign-in',
    ]
    await inTwoWindows(keeper, [loft, site], async (window, place) => {
      expect(await serious(window), place).toEqual([])
    })
  })

  it("holds long names, long addresses and the browser's own words in the columns made for them", async () => {
    const page = await newPage()
    await page.goto(`${application.url}/sign-in`)
    await page.getByLabel('E-mail address').fill('ines@wexlow.example')
    await page.getByLabel('Password').fill('wexlow-demo')
    await page.getByRole('button', { name: 'Sign in' }).click()
    await page.waitForURL('**/loft')
    for (const [place, name] of [
      ['/loft/people/p-ines', 'Ines Varga'],
      ['/loft/people/p-maxi', 'Maximiliana-Theodosia'],
    ] as const) {
      await page.goto(application.url + place)
      await page.getByRole('heading', { name }).waitFor()
      await page.getByRole('region', { name: 'What they reach' }).waitFor()
      const boxes = await page.evaluate(() => {
        const box = (element: Element) => element.getBoundingClientRect()
        const [profile, reach] = [
          document.querySelector('[aria-label="Profile"]')!,
          document.querySelector('[aria-label="What they reach"]')!,
        ].map(box)
        const outside = [...document.querySelectorAll('.card *')]
          .filter(
            inner =>
              box(inner).right > box(inner.closest('.card')!).right + 1 &&
              !inner.closest('[class*="truncate"], input, select'),
          )
          .map(inner => inner.textContent)
        return { gap: reach!.left - profile!.right, outside }
      })
      expect([place, boxes.outside, boxes.gap > 0]).toEqual([place, [], true])
    }
    expect(
      await page
        .goto(`${application.url}/loft/people/p-ines`)
        .then(() => page.getByRole('region', { name: 'Signed in at' }).textContent()),
    ).toMatch(/Chrome on Linux/)
  })

  it('can read the site and the boards on a phone', async () => {
    const context = await browser.newContext({ viewport: { width: 390, height: 844 } })
    const page = await context.newPage()
    await comeIn(page, application.url, 'ines')
    const site = ['/', '/techniques', '/account', '/account/buy', '/sign-up', '/visit']
    const loft = [
      '/loft',
      '/loft/people',
      '/loft/people/p-guda',
      '/loft/people/p-maxi',
      '/loft/people?tab=queues',
      '/loft/door?tab=site',
      '/loft/door?tab=look',
      '/loft/door?tab=seller',
      '/loft/door?tab=words',
      '/loft/who?tab=facts',
      '/loft/who',
      '/loft/who?at=role:stockist',
      '/loft/who?tab=staff',
      '/loft/door',
      '/loft?row=everything',
      '/loft/compare?one=guild&two=guest',
      '/loft/door?at=refused',
      '/loft/who?at=level:maker',
      '/loft/groups/firm/gullhaven',
      '/loft/activity',
      '/loft/activity?tab=changes',
      '/loft/editions',
    ]
    await inTwoWindows(page, [loft, site], async (window, place) => {
      expect(await window.evaluate(() => document.documentElement.scrollWidth), place).toBeLessThanOrEqual(390)
    })
  })
})
