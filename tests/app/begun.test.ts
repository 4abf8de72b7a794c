import { describe, expect, it } from 'vitest'
import type { Resource } from '../../core/kinds/kinds'
import Add from '../../app/loft/site/list/Add.vue'
import { useBegunTerms } from '../../app/loft/shop/taxes/begun-terms'
import { mountScreen } from './loft-screen'

describe('a new page', () => {
  const page = (under: Resource | null) => mountScreen(Add, { props: { kind: 'page', under } })

  it('says under what it will lie, and whose gates it takes', async () => {
    await page({ kind: 'page', id: 'gansey' })
    expect(document.querySelector('[role="dialog"] [role="status"]')?.textContent).toMatch(
      /It will lie under The gansey course and takes .*Gansey/,
    )
  })

  it('is not put below the front page by itself', async () => {
    await page({ kind: 'page', id: 'welcome' })
    expect(document.querySelector('[role="dialog"] [role="status"]')?.textContent).toContain(
      'It will lie at the top of the site, beside the front page',
    )
  })
})

describe('other terms that are begun', () => {
  it('are a sentence more for those who were named, and nobody else’s', async () => {
    const { loft } = await mountScreen(Add, { props: { kind: 'page', under: null } })
    const shown: string[] = []
    const { sayFor } = useBegunTerms(term => shown.push(term))
    const before = structuredClone(loft.draft.tax!.exceptions!)
    const who = structuredClone(before[0]!.for)
    sayFor(who, 'rate', undefined)
    const after = loft.draft.tax!.exceptions!
    expect(JSON.stringify(after.slice(0, before.length))).toBe(JSON.stringify(before))
    expect(after.at(-1)).toMatchObject({ for: who })
    // Of a rate that nothing is said of for them yet, and changing nothing so far.
    expect(after.at(-1)!.rate).not.toBe(before[0]!.rate)
    expect(after.at(-1)!.percent).toBe(
      String(loft.draft.tax!.rates!.find(one => one.id === after.at(-1)!.rate)!.percent),
    )
    expect(shown).toEqual([`exception ${after.at(-1)!.id}`])
  })
})
