import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Connection } from '../../server/db/database'
import { Problem } from '../../server/problem'
import { exportRates, importRates, planRates } from '../../server/services/shop/rates-csv'
import { freshDatabase } from '../support/database'
import { bookAt, ines, keeperOf, liveRules } from '../support/world'

let site: Connection & { url: string }
beforeAll(async () => {
  site = await freshDatabase('demo')
})
afterAll(() => site.close())
const take = async (text: string) => {
  const keeper = keeperOf(await liveRules(site))
  return importRates(site.db, async () => keeper, text, ines)
}

describe('base rates in a file', () => {
  it('are what was written out: taken in again, nothing changes', async () => {
    const file = await exportRates(site.db)
    expect(file.split('\n')[0]).toBe('id,tax,country,region,postcodes,category,percent,delivery,name')
    expect(file).toContain('canaries-wool,wool-levy,ES,,35 38,standard,1,free,')
    expect(await planRates(site.db, file)).toEqual({ added: 0, changed: 0, problems: [] })
  })

  it('are taken in together, with what people write: a comma, a sign, small letters', async () => {
    const file =
      'id,tax,country,region,postcodes,category,percent\nie-standard,vat,ie,,,standard,"24,5 %"\nno,vat,no,,,standard,25\nes-ct,vat,es,es-ct,,books,4'
    expect(await planRates(site.db, file)).toEqual({ added: 2, changed: 1, problems: [] })
    expect(await take(file)).toMatchObject({ added: 2, changed: 1 })
    const rates = (await bookAt(site.db)).tax!.rates!
    expect(rates.find(one => one.id === 'ie-standard')).toMatchObject({ percent: '24.5', place: { country: 'IE' } })
    expect(rates.find(one => one.id === 'es-ct')!.place).toEqual({ country: 'ES', region: 'ES-CT' })
    expect(rates.find(one => one.id === 'de-books')!.percent).toBe('7')
  })

  it('are not taken where a line is wrong, and every place is named', async () => {
    const file =
      'id,tax,country,percent,colour\nA b,vat,IE,20,\nx,vat,Spain,20,\ny,vat,IE,20.12345,\nz,vat,IE,-1,\nz2,vat,IE,5,\nz2,vat,IE,6,'
    const told = (await planRates(site.db, file)).problems.map(one => `${one.line} ${one.column}`)
    expect(told).toEqual(['1 colour', '2 id', '3 country', '4 percent', '5 percent', '7 id'])
    const before = await bookAt(site.db)
    const refused = await take(file).catch((error: unknown) => error)
    expect(refused).toBeInstanceOf(Problem)
    expect((refused as Problem).message).toContain('6 lines are not right')
    // A tax that is not there is refused as any rule that names what is not there.
    const dangling = await take('id,tax,country,percent\nq,nothing,IE,1').catch((error: Problem) => error.reason)
    expect(dangling).toBe('edition-broken')
    expect(await bookAt(site.db)).toEqual(before)
  })
})
