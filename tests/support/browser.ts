/** Debian's Chromium, driven by Playwright. */
import { existsSync } from 'node:fs'
import { delimiter, join } from 'node:path'
import { chromium } from 'playwright-core'
import type { Browser, Page } from 'playwright-core'

/** Without these Chromium keeps calling home, which a closed network refuses slowly. */
const quiet = [
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]

/** Its own window is built of pages too, in a process beside each page: twice the work, for what nobody sees. */
const ownWindow = [
  'InitialWebUI',
  'PreloadTopChromeWebUI',
  'WebUIBackForwardButton',
  'WebUIHomeButton',
  'WebUILocationBar',
  'WebUIOmniboxAimPopup',
  'WebUIOmniboxFullPopup',
  'WebUIOmniboxPopup',
  'WebUIReloadButton',
  'WebUISplitTabsButton',
  'WebUIToolbar',
]
const args = [...quiet, `--disable-features=${ownWindow.join(',')}`]

export function launchBrowser(): Promise<Browser> {
  const executablePath =
    (process.env.PATH ?? '')
      .split(delimiter)
      .map(folder => join(folder, 'chromium'))
      .find(existsSync) ?? '/usr/bin/chromium'
  return chromium.launch({ executablePath, args: [...args, ...(process.getuid?.() === 0 ? ['--no-sandbox'] : [])] })
}

/** A page of a browser of its own, as wide as a laptop; `scripts`: whether it runs any. */
export async function newPageOf(browser: Browser, { scripts = true } = {}): Promise<Page> {
  const viewport = { width: 1280, height: 800 }
  const page = await (await browser.newContext({ viewport, javaScriptEnabled: scripts })).newPage()
  page.setDefaultTimeout(15_000)
  return page
}

/** Waits until a page has asked nothing of the server for a while, whether it was loaded or led there by a link. */
export function stillnessOf(page: Page, quietMs = 250): () => Promise<void> {
  let underWay = 0
  let last = Date.now()
  const note = (change: number) => () => {
    underWay += change
    last = Date.now()
  }
  page.on('request', note(1))
  page.on('requestfinished', note(-1))
  page.on('requestfailed', note(-1))
  return async () => {
    last = Date.now()
    while (underWay > 0 || Date.now() - last < quietMs) await page.waitForTimeout(quietMs / 5)
  }
}
