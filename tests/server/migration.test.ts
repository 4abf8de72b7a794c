import { readFileSync, readdirSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { expect, it } from 'vitest'
import { siteIssues } from '../../core/check/site-check'
import { connect } from '../../server/db/database'
import { draftChanges } from '../../server/services/editions/changes'
import { contentOf } from '../../server/services/versions/versions'
import { readStaffRules } from '../../server/services/staff/staff-rules'
import { freshDatabaseUrl } from '../support/database'
import { contentsOf } from '../support/world'

const folder = fileURLToPath(new URL('../../server/db/migrations', import.meta.url))
const statementsOf = (file: string) =>
  readFileSync(`${folder}/${file}`, 'utf8')
    .split('--> statement-breakpoint')
    .filter(one => one.trim())

/** A site as it was kept before things had versions: two editions, a draft, pages in tables of their own. */
const before = `
insert into site_state (name, timezone, currency, live_edition) values ('Old mill', 'Europe/Dublin', 'EUR', 2);
insert into edition (number, published_by) values (1, 'Bravik'), (2, 'Ines');
insert into rule_entry (kind, key, position, body, edition_from, edition_to, changed_by) values
  ('gate', 'kept', 1, '{"id":"kept","on":{"page":"visit"},"open":{"signedIn":true}}', 1, null, 'Bravik'),
  ('gate', 'twice', 2, '{"id":"twice","on":{"page":"visit"},"open":{"everyone":true}}', 1, 2, 'Bravik'),
  ('gate', 'twice', 2, '{"id":"twice","on":{"page":"visit"},"open":{"nobody":true}}', 2, null, 'Ines'),
  ('gate', 'twice', 2, '{"id":"twice","on":{"page":"visit"},"open":{"signedIn":false}}', 3, null, 'Ines'),
  ('gate', 'gone', 3, '{"id":"gone","on":{"page":"visit"},"open":{"everyone":true}}', 1, 2, 'Bravik'),
  ('gate', 'gone', 3, null, 2, null, 'Ines'),
  ('gate', 'new', 4, '{"id":"new","on":{"block":"words"},"open":{"signedIn":true}}', 3, null, 'Ines');
insert into page (id, path, parent_id, title, summary, position, made_by, assigned_to) values
  ('visit', '/visit', null, 'Visit', 'The boat.', 0, 'p-ines', 'p-tomas'), ('ferry', '/visit/ferry', 'visit', 'Boats', '', 0, null, null);
insert into block (id, page_id, block_id, frame, kind, title, summary, body, one_of, position) values
  ('words', 'visit', null, null, 'text', '', '', '{"markdown":"Take the boat."}', false, 0),
  ('box', 'visit', null, null, 'group', 'Box', 'All of it', '{}', true, 1),
  ('inner', null, 'box', null, 'text', 'In it', '', '{"markdown":"x"}', false, 0),
  ('foot', null, null, 'footer', 'text', '', '', '{"markdown":"y"}', false, 0);
insert into menu (id, title) values ('main', 'Main menu');
insert into menu_item (id, menu_id, label, to_kind, to_id, url, under, follow, position) values
  ('m-visit', 'main', 'Visit', 'page', 'visit', null, null, true, 0), ('m-out', 'main', 'Out', null, null, 'https://a.example', 'm-visit', false, 1);
insert into product (id, title, picture, price, stock, cost, made_by) values ('kit', 'Kit', 'gansey', 2400, 7, 1100, 'p-oona');
insert into staff_rule (role, body) values
  ('page-hand', '{"role":"page-hand","kind":"pages","actions":["look","add","change"],"whose":"anyone"}'),
  ('page-hand', '{"role":"page-hand","kind":"pages","actions":["change"],"fields":["title"],"whose":"anyone"}'),
  ('page-hand', '{"role":"page-hand","kind":"gates","actions":["change"],"whose":"anyone"}'),
  ('shop-hand', '{"role":"shop-hand","kind":"products","actions":["look"],"whose":"anyone"}'),
  ('shop-hand', '{"role":"shop-hand","kind":"posts","actions":["look","change","withdraw"],"fields":["title"],"whose":"me"}'),
  ('shop-hand', '{"role":"shop-hand","kind":"people","actions":["look"],"fields":["notes"],"whose":"anyone"}'),
  ('shop-hand', '{"role":"shop-hand","kind":"settings-sign-up","actions":["look","change"],"whose":"anyone"}')`

it('moves an existing site over: its rules as they were, what stood on it into every edition', async () => {
  const site = connect(await freshDatabaseUrl(), 2)
  const files = readdirSync(folder)
    .filter(file => file.endsWith('.sql'))
    .sort()
  const split = files.findIndex(file => file.startsWith('0004'))
  for (const file of files.slice(0, split)) for (const one of statementsOf(file)) await site.sql.unsafe(one)
  await site.sql.unsafe(before)
  for (const file of files.slice(split)) for (const one of statementsOf(file)) await site.sql.unsafe(one)

  const [live, draft, first] = [await contentsOf(site, 2), await contentsOf(site), await contentsOf(site, 1)]
  const opens = ({ book }: typeof live) => (book.gates ?? []).map(gate => [gate.id, gate.open])
  expect(opens(first)).toEqual([
    ['kept', { signedIn: true }],
    ['twice', { everyone: true }],
    ['gone', { everyone: true }],
  ])
  expect(opens(live)).toEqual([
    ['kept', { signedIn: true }],
    ['twice', { nobody: true }],
  ])
  expect(opens(draft)).toEqual([
    ['kept', { signedIn: true }],
    ['twice', { signedIn: false }],
    ['new', { signedIn: true }],
  ])
  expect((await draftChanges(site.db)).map(one => one.key).sort()).toEqual(['new', 'twice'])

  expect(siteIssues(live)).toEqual([])
  expect(first.site).toEqual(live.site)
  expect(live.site).toMatchObject({
    name: 'Old mill',
    pages: [
      { id: 'visit', path: '/visit', title: 'Visit' },
      { id: 'ferry', path: '/visit/ferry', parent: 'visit', title: 'Boats' },
    ].sort((a, b) => (a.id < b.id ? -1 : 1)),
    menus: [
      {
        id: 'main',
        items: [
          { id: 'm-visit', label: 'Visit', to: { page: 'visit' } },
          { id: 'm-out', label: 'Out', to: { url: 'https://a.example' }, under: 'm-visit', follow: false },
        ],
      },
    ],
    products: [{ id: 'kit', title: 'Kit', price: 2400 }],
  })
  const { index } = live
  expect(index.standingIn('page', 'visit').map(one => [one.id, one.oneOf])).toEqual([
    ['words', undefined],
    ['box', true],
  ])
  expect([index.standingIn('block', 'box')[0]!.id, index.standingIn('frame', 'footer')[0]!.id]).toEqual([
    'inner',
    'foot',
  ])
  const words = live.get('block', 'words')!
  expect((await contentOf(site.db, [words.id])).get(words.id)).toEqual({
    summary: '',
    body: { markdown: 'Take the boat.' },
  })
  // Goods that were kept for the staff stay on no address.
  expect([index.pathOf('product', 'kit'), index.at('/visit')]).toEqual([undefined, { kind: 'page', id: 'visit' }])

  const rows = (query: string) => site.sql.unsafe(query).then(found => found.map(row => Object.values(row)))
  expect(await rows('select product, pieces, cost from stock')).toEqual([['kit', 7, 1100]])
  expect(await rows("select made_by, assigned_to from thing where kind = 'page' and key = 'visit'")).toEqual([
    ['p-ines', 'p-tomas'],
  ])
  // Whoever could make content public keeps that; nobody else gets it.
  // What fields narrowed is narrowed by them alone, and nothing else of it is.
  expect(
    await rows(
      "select body ->> 'kind' kind, body -> 'actions' actions, body -> 'fields' fields from staff_rule order by body ->> 'kind', id",
    ),
  ).toEqual([
    ['gates', ['change'], null],
    ['pages', ['look', 'add', 'change', 'publish'], null],
    ['pages', ['change'], ['title']],
    ['people', ['look'], null],
    ['posts', ['change'], ['title']],
    ['posts', ['look', 'withdraw'], null],
    ['products', ['look'], null],
    ['settings-sign-up', ['look', 'change', 'publish'], null],
  ])
  expect((await readStaffRules(site.db)).length).toBe(8)
  await site.close()
})
