import type { Page } from 'playwright-core'
import { cookieOf } from './application'

/** Somebody signed in, at a place of theirs; how one signs in has tests of its own. */
export async function comeIn(page: Page, url: string, who: string, to = '/loft'): Promise<void> {
  const [name, value] = (await cookieOf(url, who)).split('=') as [string, string]
  await page.context().addCookies([{ name, value, url, httpOnly: true, sameSite: 'Lax' }])
  await page.goto(url + to)
}
