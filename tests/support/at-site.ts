/** What is done in Site again and again, as anybody does it there. */
import type { Page } from 'playwright-core'

/** A new page, by the dialog that asks for it; it is looked at afterwards. */
export async function makePage(
  page: Page,
  { title, address, summary }: { title: string; address: string; summary?: string },
) {
  const dialog = page.getByRole('dialog')
  await page.getByRole('button', { name: 'A new page', exact: true }).click()
  await dialog.getByLabel('Title').fill(title)
  await dialog.getByLabel('Address').fill(address)
  await dialog.getByRole('button', { name: 'Make the page' }).click()
  await page.getByText('It is in the draft').waitFor()
  await page.getByRole('heading', { name: title }).waitFor()
  if (summary === undefined) return
  await page.getByRole('heading', { name: title }).dblclick()
  await page.getByLabel('Summary').fill(summary)
  await page.keyboard.press('Escape')
}

/** A new part after the one at hand, with these words. */
export async function addText(page: Page, words: string): Promise<void> {
  await page.getByRole('button', { name: /^\+ Part/ }).click()
  await page.getByRole('option', { name: /^Text/ }).click()
  await page.locator('.cm-content').fill(words)
  await page.keyboard.press('Escape')
}

/** Waits until the draft holds as many changes. */
export const changesIn = (page: Page, count: number) =>
  page.getByRole('button', { name: new RegExp(`^${count} changes?,`) }).waitFor()

/** Says whom the part at hand is for, in the first token of its sentence. */
export async function say(page: Page, phrase: string): Promise<void> {
  await page.keyboard.press('e')
  await page.getByRole('button', { name: /^everyone/ }).click()
  await page.keyboard.type(phrase)
  await page.keyboard.press('Enter')
}

/** The changes of the draft, from the button that counts them. */
export async function publish(page: Page): Promise<void> {
  await page.getByRole('button', { name: /^\d+ changes?,/ }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByRole('button', { name: /^Publish edition/ }).click()
  await dialog.waitFor({ state: 'detached' })
}
