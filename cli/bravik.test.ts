import { spawnSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { describe, expect, it } from 'vitest'
import { program } from '../scripts/programs.mjs'

const root = fileURLToPath(new URL('..', import.meta.url))
const folder = mkdtempSync(join(tmpdir(), 'bravik-cli-'))
const write = (name: string, text: string) => {
  writeFileSync(join(folder, name), text)
  return name
}
const [command, ofProgram] = program('cli/bravik.ts')
const run = (...args: string[]) => {
  const { status, stdout, stderr } = spawnSync(command, [...ofProgram, ...args], {
    encoding: 'utf8',
    cwd: root,
    env: { ...process.env, BRAVIK_CALLED_FROM: folder, BRAVIK_DATA: folder, DATABASE_URL: '' },
  })
  return { status, out: stdout.trim().split('\n'), error: stderr.trim() }
}
const vectors = (name: string) => join(root, 'tests/vectors', name)

// Each call starts a process, and other tests keep all cores at work.
describe('the bravik command', { timeout: 180_000 }, () => {
  it('verifies case files and counts', () => {
    expect(run('verify', vectors('registers.json'), vectors('conditions.json'))).toMatchObject({
      status: 0,
      out: ['63 passed, 0 failed'],
    })
    const json = run('verify', '--json', vectors('registers.json'))
    expect(JSON.parse(json.out.join('\n'))).toMatchObject({ passed: 17, failed: 0 })
  })

  it('quotes a price with its trail, of a file', () => {
    const file = write(
      'shop.json',
      JSON.stringify({
        bravik: 'case/1',
        rulebook: {
          bravik: 'rulebook/1',
          roles: [{ id: 'trade', name: 'Trade' }],
          gates: [{ id: 'g', on: { product: 'cone' }, take: { signedIn: true } }],
          offers: [
            {
              id: 'terms',
              name: 'Trade terms',
              for: { role: { anyOf: ['trade'] } },
              on: { shop: true },
              by: 'product',
              bands: [
                { to: 9, off: { percent: '12.5' } },
                { from: 10, off: { amount: 200 } },
              ],
            },
          ],
        },
        site: { timezone: 'Europe/Dublin', currency: 'EUR', products: [{ id: 'cone', price: 1000 }] },
        visitors: { trade: { person: { id: 'p' }, roles: ['trade'] } },
        cases: [],
      }),
    )
    expect(run('quote', 'cone', '--file', file, '--as', 'trade')).toMatchObject({
      status: 0,
      out: ['Price: €10.00', '* Trade terms (1 to 9, 12.5 % off): €8.75', '= €8.75'],
    })
    expect(run('quote', 'cone', '--file', file, '--as', 'trade', '--quantity', '12').out.at(-1)).toBe(
      '= €8.00 each, €96.00 for 12',
    )
    expect(run('quote', 'cone', '--file', file).out).toEqual(
      [
        '* Price: €10.00',
        'Trade terms (not for this visitor, 1 to 9, 12.5 % off): €8.75',
        '= €10.00; may not buy it',
      ].map(line => line.replace(/^Trade/, '  Trade')),
    )
    for (const wrong of [
      ['nothing'],
      ['cone', '--as', 'nobody'],
      ['cone', '--quantity', '-1'],
      ['cone', '--quantity', 'x'],
    ])
      expect(run('quote', ...wrong, '--file', file)).toMatchObject({ status: 2 })
  })

  it('quotes a basket with its taxes, of a file', () => {
    const file = vectors('tax.json')
    const asked = run(
      'quote',
      '--basket',
      'heather-dk:3,weld-plant',
      '--to',
      'ES-CT 08001',
      '--delivery',
      '500',
      '--file',
      file,
    )
    expect(asked).toMatchObject({
      status: 0,
      out: [
        '3 × heather-dk: €30.06',
        '1 × weld-plant: €22.22',
        'delivery: €6.02',
        'of which VAT 18 %: €5.40',
        'of which Wool levy 2 %: €0.71',
        '= €58.30',
        'heather-dk:',
        '  Price: €9.99',
        '  standard, sent to ES-CT 08001',
        '  VAT 18 %',
        '  Wool levy 2 %, on top of VAT: 2.36 % in all',
        '  20 % of tax taken out of what was typed',
        'weld-plant:',
        '  Price: €24.00',
        '  reduced, sent to ES-CT 08001',
        '  no rate for it there',
        '  8 % of tax taken out of what was typed',
      ],
    })
    const told = JSON.parse(run('quote', '--basket', 'heather-dk', '--json', '--file', file).out.join('\n'))
    expect(told).toMatchObject({ net: 832, tax: 167, gross: 999, lines: [{ tax: { at: { country: 'IE' } } }] })
    for (const wrong of [
      [],
      ['heather-dk', '--basket', 'heather-dk'],
      ['--basket', 'heather-dk:0'],
      ['--basket', 'nothing'],
      ['--basket', 'heather-dk', '--to', 'Spain'],
      ['--basket', 'heather-dk', '--delivery', '1.5'],
    ])
      expect(run('quote', ...wrong, '--file', file)).toMatchObject({ status: 2 })
  })

  it('names what differs, and exits with 1', () => {
    const file = write(
      'case.json',
      JSON.stringify({
        bravik: 'case/1',
        rulebook: { bravik: 'rulebook/1' },
        site: { timezone: 'UTC', currency: 'EUR', pages: [{ id: 'a', path: '/a' }] },
        visitors: { guest: {} },
        cases: [
          { name: 'shut', visitor: 'guest', ask: { resource: { page: 'a' } }, expect: { open: false } },
          {
            name: 'priced',
            visitor: 'guest',
            ask: { price: { product: 'x' } },
            expect: {},
            rulebookPatch: { tax: { settings: { typed: 'gross', origin: { country: 'IE' } } } },
          },
        ],
      }),
    )
    const { status, out } = run('verify', file)
    expect(status).toBe(1)
    expect(out).toEqual([
      `${join(folder, file)}: shut: open: expected false, found true`,
      expect.stringContaining(': priced: the rulebook is not valid: /tax/settings/typed '),
      '0 passed, 2 failed',
    ])
  })

  it('checks rulebooks, with the place of each issue', () => {
    expect(run('check', write('good.json', '{"bravik":"rulebook/1"}'))).toMatchObject({ status: 0, out: ['valid'] })
    const bad = run(
      'check',
      write(
        'bad.json',
        '{"bravik":"rulebook/1","gates":[{"id":"g","on":{"everything":true},"open":{"level":{"atLeast":"elder"}}}]}',
      ),
    )
    expect(bad.status).toBe(1)
    expect(bad.out[0]).toContain('bad.json: /gates/0/open/level/atLeast: Nothing with this id exists. Found "elder".')
  })

  it('says which file and line cannot be read, and exits with 2', () => {
    const broken = run('check', write('broken.json', '{\n "bravik": rulebook\n}'))
    expect([broken.status, broken.error]).toEqual([2, expect.stringContaining('broken.json:2:')])
    expect(run('verify', 'missing.json')).toMatchObject({ status: 2 })
    expect(run('verify', write('other.json', '{"bravik":"case/2"}'))).toMatchObject({
      status: 2,
      error: expect.stringContaining('/bravik') as string,
    })
    expect(run('wish')).toMatchObject({ status: 2 })
    expect(run('export', 'x.json')).toMatchObject({
      status: 2,
      error: expect.stringContaining('No running site') as string,
    })
    expect(run('--help').status).toBe(0)
  })
})
