import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { staffRule } from '../../core/staff/staff-rule'
import type { StaffRuleInput } from '../../core/staff/staff-rule'
import type { CompiledRules } from '../../core/gates/compiled'
import type { Connection } from '../../server/db/database'
import { block, page, siteState } from '../../server/db/schema'
import { Problem } from '../../server/problem'
import {
  authoriseBlock,
  authoriseBlockPlace,
  lookableBlocks,
  lookablePages,
} from '../../server/services/pages/content-rights'
import {
  addBlock,
  addPage,
  blockInput,
  blocksFor,
  changeBlock,
  moveBlock,
  pageInput,
  removeBlock,
  removePage,
} from '../../server/services/pages/content'
import type { BlockInput } from '../../server/services/pages/content'
import { removeEntry, saveEntry } from '../../server/services/rules/rulebook-store'
import { freshDatabase } from '../support/database'
import { ines, keeperOf, liveRules, snapshotOf } from '../support/world'

let site: Connection & { url: string }
let rules: CompiledRules
beforeAll(async () => {
  site = await freshDatabase('demo')
  rules = await liveRules(site)
  await addPage(site.db, { id: 'looms', path: '/looms', title: 'Looms' }, ines)
})
afterAll(() => site.close())

const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'none',
    (error: unknown) => (error instanceof Problem ? error.code : String(error)),
  )
const text = (id: string, place: Partial<BlockInput> = { pageId: 'looms' }): BlockInput => ({
  id,
  kind: 'text',
  body: { markdown: id },
  ...place,
})
const keeper = () => keeperOf(rules)
const version = async () => (await site.db.select().from(siteState))[0]!.contentVersion
const orderOf = async (pageId: string) => {
  const rows = await blocksFor(site.db, pageId)
  return rows.filter(row => row.pageId === pageId).map(row => row.id)
}
const worker = (personId: string, ...list: Omit<StaffRuleInput, 'role'>[]) => ({
  rights: { personId, masterKey: false, rules: list.map(one => staffRule.parse({ role: 'page-hand', ...one })) },
  snapshot: snapshotOf(rules),
})

describe('blocks', () => {
  it('stand in the order they are put in, among those beside them', async () => {
    for (const [position, id] of ['one', 'two', 'three'].entries())
      await addBlock(site.db, keeper(), { ...text(id), position }, ines)
    await addBlock(site.db, keeper(), { id: 'box', kind: 'group', pageId: 'looms', body: {}, position: 3 }, ines)
    await addBlock(site.db, keeper(), text('inner', { blockId: 'box' }), ines)
    const before = await version()
    await moveBlock(site.db, keeper(), { id: 'three', before: 'one', actor: ines })
    expect(await orderOf('looms')).toEqual(['three', 'one', 'two', 'box'])
    await moveBlock(site.db, keeper(), { id: 'three', before: null, actor: ines })
    expect(await orderOf('looms')).toEqual(['one', 'two', 'box', 'three'])
    expect(await version()).toBe(before + 2)
  })

  it('do not go where they are not: the order stays as it was', async () => {
    const before = await orderOf('looms')
    expect(await codeOf(moveBlock(site.db, keeper(), { id: 'one', before: 'inner', actor: ines }))).toBe('bad-input')
    expect(await codeOf(moveBlock(site.db, keeper(), { id: 'one', before: 'one', actor: ines }))).toBe('bad-input')
    expect(await codeOf(moveBlock(site.db, keeper(), { id: 'gone', before: null, actor: ines }))).toBe('not-found')
    expect(await orderOf('looms')).toEqual(before)
  })

  it('moved by two at once end in one order, with nobody lost', async () => {
    await Promise.all([
      moveBlock(site.db, keeper(), { id: 'two', before: null, actor: ines }),
      moveBlock(site.db, keeper(), { id: 'three', before: 'one', actor: ines }),
    ])
    const order = await orderOf('looms')
    expect([...order].sort()).toEqual(['box', 'one', 'three', 'two'])
    const rows = await site.db.select({ position: block.position }).from(block).where(eq(block.pageId, 'looms'))
    expect(new Set(rows.map(row => row.position)).size).toBe(4)
  })

  it('stand in one place that is there, and never in themselves', async () => {
    expect(await codeOf(addBlock(site.db, keeper(), text('lost', { pageId: 'nowhere' }), ines))).toBe('bad-input')
    expect(await codeOf(addBlock(site.db, keeper(), text('lost', { blockId: 'nothing' }), ines))).toBe('bad-input')
    await addBlock(site.db, keeper(), { id: 'inner-box', kind: 'group', blockId: 'box', body: {} }, ines)
    expect(await codeOf(changeBlock(site.db, keeper(), 'box', { blockId: 'inner-box' }, ines))).toBe('bad-input')
    expect(blockInput.safeParse({ ...text('both'), blockId: 'box' }).success).toBe(false)
    expect(blockInput.safeParse({ id: 'none', kind: 'text', body: { markdown: '' } }).success).toBe(false)
  })

  it.each([
    ['text', { markdown: 3 }, '/body/markdown'],
    ['call', { label: 'Go', href: 'javascript:alert(1)' }, '/body/href'],
    ['call', { label: 'Go', href: '//elsewhere.example' }, '/body/href'],
    ['picture', { pattern: 'tartan', alt: '' }, '/body/pattern'],
    ['panel', { shows: 'passwords' }, '/body/shows'],
    ['group', { extra: 1 }, '/body'],
  ])('of kind %s with a body of %j are refused at %s', (kind, body, at) => {
    const result = blockInput.safeParse({ id: 'x', kind, pageId: 'looms', body })
    expect(result.error!.issues.map(issue => `/${issue.path.join('/')}`)).toContain(at)
  })

  it('stay while a rule stands on them, and go once it is gone', async () => {
    await saveEntry(site.db, {
      kind: 'gate',
      key: 'one',
      body: { id: 'one', on: { block: 'one' }, open: { signedIn: true } },
      expects: null,
      actor: ines,
    })
    expect(await codeOf(removeBlock(site.db, keeper(), 'one', ines))).toBe('in-use')
    expect(await orderOf('looms')).toContain('one')
    const [row] = await site.sql`select id, revision from rule_entry where kind = 'gate' and key = 'one'`
    await removeEntry(site.db, {
      kind: 'gate',
      key: 'one',
      expects: { id: Number(row!.id), revision: Number(row!.revision) },
      actor: ines,
    })
    await removeBlock(site.db, keeper(), 'one', ines)
    expect(await orderOf('looms')).not.toContain('one')
  })
})

describe('pages', () => {
  it.each(['looms', '/looms/', '/looms?x=1', '//looms', '/lo oms', '/api/x', '/loft/people', '/sign-in'])(
    'do not take the address %s',
    path => {
      expect(pageInput.safeParse({ id: 'x', path, title: 'X' }).success).toBe(false)
    },
  )

  it('go with their blocks, but not from above others', async () => {
    await addPage(site.db, { id: 'loom-care', path: '/looms/care', parentId: 'looms', title: 'Care' }, ines)
    await addBlock(site.db, keeper(), text('care-words', { pageId: 'loom-care' }), ines)
    expect(await codeOf(removePage(site.db, keeper(), 'looms', ines))).toBe('in-use')
    await removePage(site.db, keeper(), 'loom-care', ines)
    expect(await site.db.select().from(block).where(eq(block.id, 'care-words'))).toEqual([])
    expect(await codeOf(removePage(site.db, keeper(), 'loom-care', ines))).toBe('not-found')
  })
})

describe('staff who look after blocks', () => {
  const tomas = { id: 'p-tomas', name: 'Tomas Orre' }

  it('move what is theirs, where they may change its place', async () => {
    await addBlock(site.db, keeper(), text('tomas-block'), tomas)
    const words = worker('p-tomas', { kind: 'blocks-text', actions: ['look', 'change'], fields: ['body'], whose: 'me' })
    const placing = worker('p-tomas', { kind: 'blocks-text', actions: ['change'], fields: ['place'], whose: 'me' })
    expect(await codeOf(authoriseBlockPlace(site.db, words, 'tomas-block'))).toBe('not-allowed')
    expect(await codeOf(authoriseBlockPlace(site.db, placing, 'tomas-block'))).toBe('none')
    expect(await codeOf(authoriseBlockPlace(site.db, placing, 'two'))).toBe('not-allowed')
    expect(await codeOf(authoriseBlockPlace(site.db, placing, 'gone'))).toBe('not-found')
    expect(
      await codeOf(
        authoriseBlock(site.db, words, 'tomas-block', 'change', {
          kind: 'text',
          pageId: 'looms',
          body: { markdown: 'New words' },
          title: '',
          summary: '',
        }),
      ),
    ).toBe('none')
    expect(
      await codeOf(authoriseBlock(site.db, words, 'tomas-block', 'change', { pageId: 'looms', position: 9 })),
    ).toBe('not-allowed')
  })

  it('do not turn a block into a kind they may not add', async () => {
    const texts = worker('p-tomas', { kind: 'blocks-text', actions: ['look', 'add', 'change'], whose: 'anyone' })
    expect(
      await codeOf(
        authoriseBlock(site.db, texts, 'two', 'change', {
          kind: 'call',
          pageId: 'looms',
          body: { label: 'Go', href: '/' },
        }),
      ),
    ).toBe('not-allowed')
  })

  it('see of pages and blocks what they may look at: by who made it, who looks after it, and what its maker is', async () => {
    await site.db.update(page).set({ assignedTo: 'p-tomas' }).where(eq(page.id, 'ferry'))
    const mine = worker(
      'p-tomas',
      { kind: 'pages', actions: ['look'], whose: 'assigned' },
      { kind: 'blocks-text', actions: ['look'], whose: 'me' },
    )
    expect(await lookablePages(site.db, mine)).toEqual(new Set(['ferry']))
    const rows = await blocksFor(site.db, 'looms')
    expect((await lookableBlocks(site.db, mine, rows)).map(row => row.id)).toEqual(['tomas-block'])
    // Guda is in the gansey circle; what she made shows to whom looks after what the circle makes.
    await addBlock(site.db, keeper(), text('guda-block'), { id: 'p-guda', name: 'Guda Moor' })
    const circle = worker('p-tomas', {
      kind: 'blocks-text',
      actions: ['look'],
      whose: 'audience',
      audience: 'gansey-circle',
    })
    expect((await lookableBlocks(site.db, circle, await blocksFor(site.db, 'looms'))).map(row => row.id)).toEqual([
      'guda-block',
    ])
  })
})
