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

export function launchBrowser(): Promise<Browser> {
  const executablePath =
    (process.env.PATH ?? '')
      .split(delimiter)
      .map(folder => join(folder, 'chromium'))
      .find(existsSync) ?? '/usr/bin/chromium'
  return chromium.launch({ executablePath, args: [...quiet, ...(process.getuid?.() === 0 ? ['--no-sandbox'] : [])] })
}

/** A page of a browser of its own, as wide as a laptop. */
export async function newPageOf(browser: Browser): Promise<Page> {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
  page.setDefaultTimeout(15_000)
  return page
}
