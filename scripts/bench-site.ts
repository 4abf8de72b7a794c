/** Writing on a site of twenty thousand pages: opening Site, and how soon margin and hatching follow what is typed. */
import postgres from 'postgres'
import type { Asked, Told } from '../app/loft/core/worker/ask-core'
import type { SheetQuestions } from '../app/loft/kit/sheet/questions'
import { launchBrowser } from '../tests/support/browser'
import { serve, signedInAt } from './serving.mjs'
import { prepare } from './steps.mjs'

const pages = 20_000

/** Pages in three levels, each with a text, a gate on one in a hundred. */
async function generate(sql: postgres.Sql): Promise<void> {
  await sql`insert into version (kind, key, position, body, edition_from, changed_by)
    select 'page', 'p' || n, 1000 + n, jsonb_strip_nulls(jsonb_build_object('id', 'p' || n, 'title', 'Page ' || n, 'path', '/made/p' || n,
      'parent', case when n > 2000 then 'p' || (n % 2000 + 1) when n > 100 then 'p' || (n % 100 + 1) end)), 1, 'bench' from generate_series(1, ${pages}) n`
  await sql`insert into version (kind, key, position, body, content, edition_from, changed_by)
    select 'block', 'b' || n, 1000 + n, jsonb_build_object('id', 'b' || n, 'kind', 'text', 'in', jsonb_build_object('page', 'p' || n)),
      jsonb_build_object('body', jsonb_build_object('markdown', 'Words of page ' || n)), 1, 'bench' from generate_series(1, ${pages}) n`
  await sql`insert into version (kind, key, position, body, edition_from, changed_by)
    select 'gate', 'made-' || n, 200 + n, jsonb_build_object('id', 'made-' || n, 'on', jsonb_build_object('page', 'p' || (n * 100)),
      'open', jsonb_build_object('level', jsonb_build_object('atLeast', (array['friend','maker','guild'])[1 + n % 3]))), 1, 'bench' from generate_series(1, ${pages / 100}) n`
  await sql`insert into thing (kind, key, made_by) select kind, key, 'p-ines' from version on conflict do nothing`
  await sql`update site_state set draft_version = draft_version + 1`
  await sql.unsafe('vacuum analyze')
}

/** What Site asks the core for a page as somebody is sent it, and the room it is asked of. */
const pageQuestion: ['sheet', keyof SheetQuestions] = ['sheet', 'page']

const middle = (times: number[]) => times.sort((a, b) => a - b)[Math.floor(times.length / 2)]!

async function writing(address: string, cookie: string): Promise<void> {
  const browser = await launchBrowser()
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
  page.setDefaultTimeout(120_000)
  // How long each question for the page takes, from asking to the answer.
  await page.addInitScript(([room, question]) => {
    const asked = new Map<number, number>()
    const took: number[] = []
    Object.assign(window, { pageTook: took })
    // When the page was there, by the browser's own clock: whoever asks from outside asks every half second.
    const look = () => {
      // The page stands in a tree of its own, with the site's own styles.
      const roots = [...document.querySelectorAll('section *')].flatMap(one => one.shadowRoot ?? [])
      const shown = roots.some(one => one.querySelector('h1')?.textContent?.includes('Visit the mill'))
      if (shown) Object.assign(window, { shownMs: performance.now() })
      else requestAnimationFrame(look)
    }
    requestAnimationFrame(look)
    const { prototype } = Worker
    const post = prototype.postMessage
    const heard = new WeakSet<Worker>()
    prototype.postMessage = function (this: Worker, told: Asked) {
      if (!heard.has(this)) {
        heard.add(this)
        this.addEventListener('message', ({ data }: MessageEvent<Told>) => {
          const start = asked.get(data.number)
          if (start !== undefined) took.push(performance.now() - start)
        })
      }
      if (told.room === room && told.question === question) asked.set(told.number, performance.now())
      post.call(this, told)
    }
  }, pageQuestion)
  const [name, value] = cookie.split('=') as [string, string]
  await page.context().addCookies([{ name, value, url: address }])
  const shown = page.getByRole('region', { name: /^The page as/ })
  const openings: number[] = []
  for (let round = 0; round < 6; round++) {
    await page.goto(`${address}/loft/site?path=/visit&as=guest`)
    await shown.getByRole('heading', { name: 'Visit the mill' }).waitFor()
    openings.push(await page.evaluate(() => (window as unknown as { shownMs: number }).shownMs))
    await page.waitForTimeout(1000)
  }
  await page.getByRole('link', { name: 'Reach', exact: true }).click()
  await page
    .getByRole('grid')
    .first()
    .waitFor()
    .catch(() => {})
  const again = performance.now()
  await page.getByRole('link', { name: 'Site', exact: true }).click()
  await shown.waitFor()
  const againMs = performance.now() - again

  const part = shown.locator('[data-part]').first()
  await part.dblclick()
  await page.locator('.cm-content').waitFor()
  await page.evaluate(() => ((window as unknown as { pageTook: number[] }).pageTook.length = 0))
  const keys: number[] = []
  for (const letter of 'The door is never locked, and the kettle is on. ') {
    const start = performance.now()
    await page.keyboard.type(letter)
    await page.evaluate(() => new Promise(resolve => requestAnimationFrame(resolve)))
    keys.push(performance.now() - start)
    await page.waitForTimeout(60)
  }
  await page.waitForTimeout(1500)
  const took = await page.evaluate(() => (window as unknown as { pageTook: number[] }).pageTook)
  await browser.close()
  if (!took.length) throw new Error('The core was not asked for the page while it was written.')
  console.log(
    `Site on ${pages.toLocaleString('en')} pages: page and list are there from nothing in ${middle(openings.slice(1)).toFixed(0)} ms, from another place in ${againMs.toFixed(0)} ms (aim: under 1,000) · a key is on the screen after ${middle(keys).toFixed(0)} ms as Playwright sees it, margin and hatching follow ${middle(took).toFixed(0)} ms later, the slowest of ${took.length} after ${Math.max(0, ...took).toFixed(0)} ms (aim: under 100)`,
  )
}

/** `url`: an empty database. */
export async function benchSite(url: string): Promise<void> {
  prepare(url)
  const sql = postgres(url, { max: 1, onnotice: () => {} })
  await generate(sql)
  await sql.end()
  const server = await serve(url)
  try {
    await writing(server.url, await signedInAt(server.url))
  } finally {
    server.kill()
  }
}
